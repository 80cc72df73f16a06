/** Which topics a program asks for, and in which order: OData as questions to the tables. */
import { CodedError } from '@kindred/core/platform/coded-error';
import { readFilter, readOrder, type ODataFilter } from '@kindred/core/bcf/odata';
import { statusFrom } from '@kindred/core/bcf/status-words';
import { fileError } from '@kindred/words/files';
import { asc, desc, sql, type SQL } from 'drizzle-orm';
import { issues } from '../issues/schema.ts';
import { refused } from '../platform/errors.ts';
import { containing } from '../platform/like.ts';

const emailOf = (id: SQL): SQL => sql`(select lower(email) from users where users.id = ${id})`;
interface Field {
  value: SQL;
  type: 'text' | 'moment' | 'number' | 'texts';
}
const FIELDS: Record<string, Field> = {
  title: { value: sql`${issues.title}`, type: 'text' },
  topic_type: { value: sql`${issues.type}`, type: 'text' },
  topic_status: { value: sql`${issues.status}`, type: 'text' },
  priority: { value: sql`${issues.priority}`, type: 'text' },
  assigned_to: { value: emailOf(sql`${issues.assigneeId}`), type: 'text' },
  creation_author: {
    value: sql`lower(coalesce(${issues.writtenBy}, ${emailOf(sql`${issues.authorId}`)}))`,
    type: 'text',
  },
  creation_date: { value: sql`${issues.createdAt}`, type: 'moment' },
  modified_date: { value: sql`${issues.updatedAt}`, type: 'moment' },
  due_date: { value: sql`${issues.dueOn}::timestamptz`, type: 'moment' },
  index: { value: sql`${issues.number}`, type: 'number' },
  labels: { value: sql`${issues.labels}`, type: 'texts' },
};
const SIGNS = { eq: '=', ne: '<>', gt: '>', ge: '>=', lt: '<', le: '<=' } as const;

const notAsked = (what: string) =>
  refused('odata', `“${what}” cannot be asked for here. Fields: ${Object.keys(FIELDS).join(', ')}.`);

/** Over issues; refuses what cannot be read. */
export function filterOf(said: string | undefined, status: SQL = FIELDS.topic_status!.value): SQL | undefined {
  if (!said?.trim()) return undefined;
  return conditionOf(
    parsed(() => readFilter(said)),
    status,
  );
}

function parsed<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    throw refused(error.code, fileError(error));
  }
}

function conditionOf(filter: ODataFilter, status: SQL): SQL {
  if (filter.kind === 'not') return sql`not coalesce(${conditionOf(filter.of, status)}, false)`;
  if (filter.kind !== 'compare') {
    const [left, right] = filter.of.map((one) => conditionOf(one, status));
    return sql`(${left} ${sql.raw(filter.kind)} ${right})`;
  }
  const field = FIELDS[filter.field.replace(/\/any\(.*$/, '')];
  if (!field) throw notAsked(filter.field);
  return compared(filter.field, field, filter.operator, filter.value);
}

function compared(
  name: string,
  { value, type }: Field,
  operator: keyof typeof SIGNS | 'contains',
  wanted: string | number | null,
): SQL {
  const isEqual = operator === 'eq' || operator === 'ne';
  if (wanted === null) {
    if (!isEqual) throw notAsked(`${name} ${operator} null`);
    return operator === 'eq' ? sql`${value} is null` : sql`${value} is not null`;
  }
  if (operator === 'contains') {
    if (type === 'texts')
      return sql`exists (select 1 from unnest(${value}) one where one ilike ${containing(String(wanted))})`;
    if (type !== 'text') throw notAsked(`contains(${name})`);
    return sql`${value} ilike ${containing(String(wanted))}`;
  }
  const sign = sql.raw(SIGNS[operator]);
  switch (type) {
    case 'moment': {
      const at = new Date(String(wanted));
      if (Number.isNaN(at.getTime())) throw notAsked(`${name} ${String(wanted)}`);
      return sql`${value} ${sign} ${at.toISOString()}::timestamptz`;
    }
    case 'number':
      if (typeof wanted !== 'number') throw notAsked(`${name} ${wanted}`);
      return sql`${value} ${sign} ${wanted}`;
    case 'texts':
      if (!isEqual) throw notAsked(`${name} ${operator}`);
      return operator === 'eq' ? sql`${String(wanted)} = any(${value})` : sql`not ${String(wanted)} = any(${value})`;
    case 'text': {
      // Programs have words of their own for what we call so.
      const word = name === 'topic_status' ? (statusFrom(String(wanted)) ?? String(wanted)) : String(wanted);
      const asked = name === 'assigned_to' || name === 'creation_author' ? word.toLowerCase() : word;
      return sql`${value} ${sign} ${asked}`;
    }
  }
}

/** The oldest first where nothing is asked; never in two orders for one list. */
export function orderOf(said: string | undefined): SQL[] {
  const wanted = said?.trim() ? parsed(() => readOrder(said)) : [{ field: 'creation_date', descending: false }];
  return [
    ...wanted.map(({ field, descending }) => {
      const known = FIELDS[field];
      if (!known || known.type === 'texts') throw notAsked(field);
      return descending ? desc(known.value) : asc(known.value);
    }),
    asc(issues.id),
  ];
}
