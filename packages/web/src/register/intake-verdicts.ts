import { checkName, nearestName, type Convention, type NameVerdict } from '@kindred/core/naming/convention';

/** What a name at the intake lacks. */
export interface Judged {
  verdict: NameVerdict;
  /** The name with the nearest allowed values, where there is one for each that is wrong. */
  nearest?: string;
  /** Values that the convention would have to take so that the name conforms, where all else is right. */
  missing: { field: string; code: string }[];
}

/** Names are judged once, however often they are shown; a convention that was changed judges anew. */
export function createJudge(): (convention: Convention, code: string) => Judged {
  const known = new WeakMap<Convention, Map<string, Judged>>();
  return (convention, code) => {
    const names = known.get(convention) ?? new Map<string, Judged>();
    known.set(convention, names);
    let judged = names.get(code);
    if (!judged) names.set(code, (judged = judge(convention, code)));
    return judged;
  };
}

function judge(convention: Convention, code: string): Judged {
  const verdict = checkName(convention, code);
  const nearest = nearestName(convention, verdict);
  const lists = new Set(convention.fields.filter(({ kind }) => kind === 'list').map(({ name }) => name));
  const missing = verdict.problem
    ? []
    : verdict.fields
        .filter(({ ok, value, field }) => !ok && value && lists.has(field))
        .map(({ field, value }) => ({ field, code: value }));
  return { verdict, ...(nearest !== undefined && { nearest }), missing };
}
