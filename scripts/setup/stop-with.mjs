/** An error whose message is all that the user needs. */
export class SetupFailure extends Error {}

/** Runs a script's main function; an expected failure prints its message only. */
export async function main(run) {
  try {
    await run();
  } catch (error) {
    console.error(error instanceof SetupFailure ? `\n${error.message}\n` : error);
    process.exitCode = 1;
  }
}
