declare const shape: unique symbol;

/** An answer that is JSON already, of the shape `T`: it is sent as it is. */
export class JsonText<T> {
  declare readonly [shape]: T;
  readonly text: string;
  constructor(text: string) {
    this.text = text;
  }
}
