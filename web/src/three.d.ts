/** Node definitions of MaterialX, generated; the package brings no types. */
declare module 'three/examples/jsm/loaders/materialx/MaterialXNodeInterfaceRegistry.js' {
  const registry: { nodedefs: Record<string, { inputs: Record<string, { type: string; value?: string }> }> };
  export default registry;
}
