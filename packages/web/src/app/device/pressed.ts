/** What goes with a press: the same thing said and pressed again, after a lost answer, is the same write. */
export class Pressed<T> {
  private last: { readonly said: string; readonly made: T } | null = null;

  constructor(private readonly make: () => T) {}

  /** @param body what is said, but for what the press itself adds */
  with(body: unknown): T {
    const said = JSON.stringify(body);
    if (this.last?.said !== said) this.last = { said, made: this.make() };
    return this.last.made;
  }
}
