/** A stack that is begun with the first thing that goes into it, and only once, however often that is tried. */

export class NewStack<Made> {
  private made: Promise<Made> | undefined;

  constructor(private readonly create: (name: string) => Promise<Made>) {}

  /** The stack; it has the name that was given first. Rejects where it could not be begun, and then it is tried again. */
  ensure(name: string): Promise<Made> {
    this.made ??= this.create(name).catch((error: unknown) => {
      this.made = undefined;
      throw error;
    });
    return this.made;
  }
}
