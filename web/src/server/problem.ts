/** A problem answer after RFC 9457: a status, a title, and further members with the place and the reason. */
export class Problem extends Error {
  readonly status: number;
  readonly members: Record<string, unknown>;

  constructor(status: number, title: string, members: Record<string, unknown> = {}) {
    super(title);
    this.status = status;
    this.members = members;
  }
}
