/** Runs a command's work and sets its exit code. Each command is loaded on demand. */
export const leave =
  // biome-ignore lint/suspicious/noExplicitAny: Commander gives each command the options that were declared for it
    <A extends any[]>(work: (...args: A) => Promise<number>) =>
    async (...args: A): Promise<void> => {
      process.exitCode = await work(...args);
    };
