/** An issue at a place of the scene. */
export interface ScenePin {
  id: string;
  number: number;
  /** Metres in model coordinates. */
  at: [x: number, y: number, z: number];
}
