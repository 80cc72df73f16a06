import { Type, type Static, type TObject, type TSchema } from '@sinclair/typebox';
import type { Right } from '@kindred/core/people/rights';

/** Who may call: anyone, anyone signed in, a member of the project in the path, or a member with a right. */
export type Access = 'public' | 'signed in' | 'member' | 'administrator' | Right;

/** What a link may allow to somebody without an account. */
export const GUEST_ACTS = ['see', 'measure', 'section', 'elements', 'comment', 'download'] as const;
export type GuestAct = (typeof GUEST_ACTS)[number];

export interface Operation<P extends TObject, Q extends TObject, B extends TSchema, R extends TSchema> {
  id: string;
  method: 'get' | 'post' | 'patch' | 'put' | 'delete';
  /** Below /api, parameters as `:name`. Project things live below `/projects/:projectId`. */
  path: string;
  summary: string;
  access: Access;
  /** What a link has to allow for a guest to call it; absent where no guest may. */
  guest?: GuestAct;
  params: P;
  query: Q;
  body: B;
  response: R;
  /** The answer is a file, not JSON. */
  binary?: boolean;
  /** Bytes that the body may have; 100 kB where absent. */
  largestBody?: number;
  /** It makes much work, or tells people outside: limited for each person and each project. */
  costly?: boolean;
}
export type AnyOperation = Operation<TObject, TObject, TSchema, TSchema>;

export type Params<O> = O extends Operation<infer P, TObject, TSchema, TSchema> ? Static<P> : never;
export type Query<O> = O extends Operation<TObject, infer Q, TSchema, TSchema> ? Static<Q> : never;
export type Body<O> = O extends Operation<TObject, TObject, infer B, TSchema> ? Static<B> : never;
export type Response<O> = O extends Operation<TObject, TObject, TSchema, infer R> ? Static<R> : never;

export const Nothing = Type.Null();
const NoFields = Type.Object({}, { additionalProperties: false });
type Empty = typeof NoFields;

interface Parts<P extends TObject, Q extends TObject, B extends TSchema, R extends TSchema> {
  method: 'get' | 'post' | 'patch' | 'put' | 'delete';
  path: string;
  summary: string;
  access: Access;
  guest?: GuestAct;
  params?: P;
  query?: Q;
  body?: B;
  response?: R;
  binary?: boolean;
  largestBody?: number;
  costly?: boolean;
}

/** Declares an operation; parameters of the path that `params` does not name are ids. */
export function operation<
  P extends TObject = TObject<Record<string, ReturnType<typeof Id>>>,
  Q extends TObject = Empty,
  B extends TSchema = typeof Nothing,
  R extends TSchema = typeof Nothing,
>(id: string, parts: Parts<P, Q, B, R>): Operation<P, Q, B, R> {
  const named = [...parts.path.matchAll(/:(\w+)/g)].map(([, name]) => name!);
  const given = (parts.params?.properties ?? {}) as Record<string, TSchema>;
  const params = Type.Object(Object.fromEntries(named.map((name) => [name, given[name] ?? Id()])));
  return {
    id,
    ...parts,
    params: params as unknown as P,
    query: parts.query ?? (NoFields as unknown as Q),
    body: parts.body ?? (Nothing as unknown as B),
    response: parts.response ?? (Nothing as unknown as R),
  };
}

export const Id = () => Type.String({ format: 'uuid' });
export const Moment = () => Type.String({ format: 'date-time' });
export const Day = () => Type.String({ format: 'date' });
/** One line that a person typed: no control characters, not only blanks. */
export const Line = (maxLength = 200) =>
  Type.String({ minLength: 1, maxLength, pattern: '^(?=[\\s\\S]*\\S)[^\\u0000-\\u001f\\u007f]+$' });
export const OptionalLine = (maxLength = 200) => Type.String({ maxLength, pattern: '^[^\\u0000-\\u001f\\u007f]*$' });
/** Several lines that a person typed. */
export const Prose = (maxLength = 10_000) => Type.String({ maxLength, pattern: '^[^\\u0000]*$' });
/** Text or null as one type, where that says it all: a union would be tried branch by branch for every value of a list. */
export const Nullable = <T extends TSchema>(schema: T) =>
  Type.Unsafe<Static<T> | null>(
    schema.type === 'string' && !schema.enum
      ? { ...schema, type: ['string', 'null'] }
      : Type.Union([schema, Type.Null()]),
  );
export const OneOf = <T extends string>(values: readonly T[]) => Type.Unsafe<T>({ type: 'string', enum: [...values] });
/** The edition that the sender last saw; a newer one answers 409 and nothing is overwritten. */
export const Edition = () => Type.Integer({ minimum: 1 });
export const Page = <T extends TSchema>(item: T) =>
  Type.Object({ items: Type.Array(item), next: Nullable(Type.String()) });
export const PageQuery = {
  after: Type.Optional(Type.String({ maxLength: 500 })),
  limit: Type.Optional(Type.Integer({ minimum: 1, maximum: 200 })),
};
