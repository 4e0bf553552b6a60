import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** An object of a scene that stands in for all shapes, for this window. */
interface ShapeOn {
  sceneId: string;
  /** Index of its node. */
  node: number;
  name: string;
}

export const useShapeOn = create<{ on: ShapeOn | undefined }>()(
  persist(() => ({ on: undefined as ShapeOn | undefined }), {
    name: 'rootcall-shape-on',
    storage: createJSONStorage(() => sessionStorage),
  }),
);
