import type { Container } from '@kindred/contract/register/register';
import { decodeName, nameFields } from '@kindred/core/naming/decode-name';
import { computed } from 'vue';
import { useNaming } from '../naming/store.ts';
import { bytes, useTime } from '../platform/time.ts';
import { fieldOf, type EditableKey } from './columns.ts';
import { useFolders } from './folders-store.ts';

export type RegisterWords = ReturnType<typeof useRegisterWords>;

/** What stands in the cells of the register, and what its codes mean. */
export function useRegisterWords() {
  const naming = useNaming();
  const folders = useFolders();
  const time = useTime();
  const teams = computed(
    () =>
      new Map(
        folders.list.filter(({ teamId, parentId }) => teamId && !parentId).map(({ teamId, name }) => [teamId, name]),
      ),
  );

  /** Every part of the code with its meaning, a line each. */
  function decoded({ folderId, code }: Container): string {
    const convention = folders.conventionIn(folderId);
    if (!convention) return '';
    return decodeName(convention, code)
      .filter(({ meaning }) => meaning)
      .map(({ field, code: part, meaning }) => `${field} ${part}: ${meaning}`)
      .join('\n');
  }
  /** The parts of the code by field, each with its meaning: `A Architecture`. */
  function parts({ folderId, code }: Pick<Container, 'folderId' | 'code'>): Record<string, string> {
    const convention = folders.conventionIn(folderId);
    if (!convention || !Object.keys(nameFields(convention, code)).length) return {};
    const said = decodeName(convention, code).map(({ field, code: part, meaning }) => [
      field,
      [part, meaning].filter(Boolean).join(' '),
    ]);
    return Object.fromEntries(said) as Record<string, string>;
  }
  const partOf = ({ folderId, code }: Container, field: string): string => {
    const convention = folders.conventionIn(folderId);
    return convention ? (nameFields(convention, code)[field] ?? '') : '';
  };
  /** What a value of a part of the code means. */
  function partMeaning(folderId: string | null, name: string, value: string): string {
    const field = folders.conventionIn(folderId)?.fields.find((one) => one.name === name);
    return field?.kind === 'list' ? (field.values.find(({ code }) => code === value)?.meaning ?? '') : '';
  }

  const CELLS: Record<string, (container: Container) => string> = {
    version: ({ versionNumber }) => String(versionNumber),
    revision: ({ revision }) => revision,
    status: ({ status }) => status,
    team: ({ teamId }) => teams.value.get(teamId) ?? '',
    delivered: ({ deliveredAt }) => time.short(deliveredAt),
    deliveredBy: ({ deliveredBy }) => deliveredBy,
    classification: ({ classification }) => classification,
    description: ({ description }) => description,
    kind: ({ kind }) => kind,
    folder: ({ folderId }) => folders.byId.get(folderId)?.path ?? '',
    file: ({ fileName }) => fileName,
    size: ({ size }) => bytes(size),
    sheets: ({ sheets }) => (sheets ? String(sheets) : ''),
    reserved: ({ reservedBy }) => reservedBy ?? '',
  };
  const cell = (key: string, container: Container): string => {
    const field = fieldOf(key);
    return field ? partOf(container, field) : (CELLS[key]?.(container) ?? '');
  };
  const hint = (key: string, container: Container): string => {
    const field = fieldOf(key);
    if (field) return partMeaning(container.folderId, field, partOf(container, field));
    if (key === 'status' || key === 'classification') return naming.meaning(cell(key, container));
    if (key === 'reserved' && container.reservedAt) return `since ${time.moment(container.reservedAt)}`;
    if (key === 'delivered') return `${time.moment(container.deliveredAt)} by ${container.deliveredBy}: all versions`;
    return cell(key, container);
  };
  /** How a value of a filter or a group is called. */
  function valueWords(name: string, value: string, label = ''): string {
    if (label) return label;
    if (name === 'teamId') return teams.value.get(value) ?? 'no team';
    if (name === 'folderId') return folders.byId.get(value)?.path ?? '';
    const field = fieldOf(name);
    const meaning = field ? partMeaning(null, field, value) : naming.meaning(value);
    return value ? [value, meaning].filter(Boolean).join(' ') : 'none';
  }
  const fields = computed(() => [
    ...new Set(naming.naming?.conventions.flatMap(({ definition }) => definition.fields.map(({ name }) => name)) ?? []),
  ]);
  /** The codes that a project has for a value that is changed in place; none where anything may be written. */
  const codesFor = (key: EditableKey): readonly { code: string; meaning: string }[] =>
    (key === 'status' && naming.naming?.statuses) || (key === 'classification' && naming.naming?.classifications) || [];
  return { decoded, parts, cell, hint, valueWords, fields, codesFor };
}
