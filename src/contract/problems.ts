/** Everything that can be wrong with a request: one table for server, API documentation and screen. */
export const PROBLEMS = {
  'invalid-input': { status: 422, title: 'Some of what came cannot be taken.' },
  'not-json': { status: 400, title: 'The request could not be read.' },
  'no-photo': { status: 422, title: 'This is no picture Malle can take.' },
  'too-large': { status: 413, title: 'That is more than can be taken at once.' },
  'signed-out': { status: 401, title: 'Sign in first.' },
  'wrong-sign-in': { status: 401, title: 'Name and password do not belong together.' },
  'code-needed': { status: 401, title: 'Now the code of your second factor.' },
  'wrong-passkey': { status: 422, title: 'This passkey is not taken.' },
  'too-many-tries': { status: 429, title: 'Too many tries. Wait a little, then try again.' },
  'not-allowed': { status: 403, title: 'Your role does not allow this.' },
  'confirm-first': { status: 403, title: 'Give your password first: this changes who can come in.' },
  'foreign-origin': { status: 403, title: 'This request came from another site.' },
  'past-proxy': { status: 421, title: 'This is not the way in.' },
  'not-found': { status: 404, title: 'There is no such thing here.' },
  'already-set-up': { status: 409, title: 'This register has its first custodian already.' },
  'changed-meanwhile': { status: 409, title: 'Somebody changed this meanwhile.' },
  'id-taken': { status: 409, title: 'This id was used before for something else.' },
  'ledger-broken': {
    status: 409,
    title:
      'The records of this pack do not end where they were left: some were taken away or put in by something else. Nothing is written to it until that is cleared up. Tell whoever runs the register.',
  },
  busy: { status: 503, title: 'The register is busy or restarting. Try again.' },
  'no-room': {
    status: 507,
    title:
      'The server’s disk is full. Nothing is written until somebody makes room; what waits on a device is sent then.',
  },
  internal: { status: 500, title: 'Something broke on the server. It has been noted.' },
} as const satisfies Record<string, { readonly status: number; readonly title: string }>;

export type ProblemCode = keyof typeof PROBLEMS;

/** What is wrong with one field. `field` is a path into the request, dots between. */
export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** An `application/problem+json` body. `type` is the code as a relative reference. */
export interface Problem {
  readonly type: `/problems/${ProblemCode}`;
  readonly title: string;
  readonly status: number;
  readonly detail?: string;
  readonly errors?: readonly FieldProblem[];
}

export function problemOf(
  code: ProblemCode,
  more: { detail?: string; errors?: readonly FieldProblem[] } = {},
): Problem {
  return { type: `/problems/${code}`, ...PROBLEMS[code], ...more };
}

/** The code of a problem document; null when it is not one of ours. */
export function problemCode(problem: { readonly type?: unknown }): ProblemCode | null {
  const code = typeof problem.type === 'string' ? problem.type.replace('/problems/', '') : '';
  return code in PROBLEMS ? (code as ProblemCode) : null;
}
