/** Errors of the start commands are sentences: thrown as Plain, printed without a stack. */
export class Plain extends Error {}

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Runs a command's main function; a sentence and exit code 1 where it fails. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    if (error instanceof Plain) process.stderr.write(`\n${error.message}\n`);
    else
      process.stderr.write(
        `\nSomething went wrong that this command does not know: ${error?.message ?? error}\n${process.env.DEBUG ? error?.stack : 'Run it again with DEBUG=1 for the details.'}\n`,
      );
    process.exit(1);
  }
}
