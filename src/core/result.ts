/** Success with a value, or an expected failure with its reason. Defects throw instead. */
export type Result<Value, Problem> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: Problem };

export function success<Value>(value: Value): { readonly ok: true; readonly value: Value } {
  return { ok: true, value };
}

export function failure<Problem>(problem: Problem): { readonly ok: false; readonly problem: Problem } {
  return { ok: false, problem };
}

/** Makes a forgotten member of a union a compile error, and a defect at run time. */
export function unreachable(value: never): never {
  throw new Error(`no case for ${JSON.stringify(value)}`);
}
