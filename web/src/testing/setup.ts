/** What a browser has and jsdom has not, and a server that tests put in place of the network. */
import { answer } from './server';

globalThis.fetch = answer;

// The client asks for paths; Node wants whole addresses.
const Whole = globalThis.Request;
globalThis.Request = class extends Whole {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' && input.startsWith('/') ? `http://localhost${input}` : input, init);
  }
};

if (typeof window !== 'undefined') {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  globalThis.ResizeObserver = class {
    readonly #tell: ResizeObserverCallback;
    constructor(tell: ResizeObserverCallback) {
      this.#tell = tell;
    }
    observe(target: Element) {
      this.#tell([{ target, borderBoxSize: [{ blockSize: 400, inlineSize: 800 }] } as never], this);
    }
    unobserve() {
      // Sizes do not change here.
    }
    disconnect() {
      // As above.
    }
  };
  Element.prototype.scrollIntoView = () => undefined;
  Element.prototype.hasPointerCapture = () => false;
  // Lists that draw only what is in view ask how high they are.
  Object.defineProperty(Element.prototype, 'clientHeight', { configurable: true, value: 400 });
  Object.defineProperty(Element.prototype, 'clientWidth', { configurable: true, value: 800 });
}
