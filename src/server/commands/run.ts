/** Runs a command with what was typed after its name, and ends the process with the code it answers; what went wrong is one line. */
export function run(main: (args: readonly string[]) => Promise<number>): void {
  main(process.argv.slice(2)).then(
    (code) => process.exit(code),
    (error: unknown) => {
      process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
      process.exit(1);
    },
  );
}
