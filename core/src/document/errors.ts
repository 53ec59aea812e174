/**
 * An error that a person can act on. The message is a whole sentence: what happened, where, and what to do.
 */
export class KitError extends Error {
  /** What goes to whoever asked, beside the sentence. */
  readonly told: Readonly<Record<string, unknown>> = {};

  constructor(
    readonly code: string,
    message: string,
    readonly where: string | null = null,
  ) {
    super(message);
    this.name = new.target.name;
  }
}

/** A part that is no longer in the kit. */
export class PartMissingError extends KitError {
  constructor(id: string) {
    super('part-missing', 'That part is no longer in the kit. Choose another one in Parts.', id);
  }
}

/** Something new was to get an id that something else has. */
export class IdTakenError extends KitError {
  constructor(id: string) {
    super('id-taken', 'What was to be made is there already. Try once more.', id);
  }
}

/** An operation's arguments do not fit its schema. */
export class ArgumentsError extends KitError {
  constructor(operation: string, detail: string) {
    super('arguments', `“${operation}” was asked for with values it can't use: ${detail}.`, operation);
  }
}
