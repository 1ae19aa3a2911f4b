/** Does something, and measures the processor time of this thread for it, ms: what else the machine does meanwhile is not in it. */
export async function cpuTime<T>(work: () => T | Promise<T>): Promise<{ result: T; milliseconds: number }> {
  const begun = process.threadCpuUsage();
  const result = await work();
  const { user, system } = process.threadCpuUsage(begun);
  return { result, milliseconds: (user + system) / 1000 };
}
