/** An answer that says no, as RFC 9457 has it: a status, a title, and further members that tell where and why. */
export class Problem extends Error {
  readonly status: number;
  readonly members: Record<string, unknown>;

  constructor(status: number, title: string, members: Record<string, unknown> = {}) {
    super(title);
    this.status = status;
    this.members = members;
  }
}
