import { farApart } from '@kindred/core/federation/apart';
import { findClashes, type Clash, type ClashSettings, type ClashSide } from '@kindred/core/clash/find-clashes';
import { groupClashes, type KnownOf } from '@kindred/core/clash/group-clashes';
import { systemOf } from '@kindred/core/clash/run-rule';
import type { PreparedModel } from '@kindred/core/scene/prepare-model';
import { decodeProperties } from '@kindred/core/scene/property-file';
import { storeyOf } from '@kindred/core/scene/storeys';
import { nameGroup, sayFarApart, type ClashingElement } from '@kindred/words/clashes';
import { counted } from '@kindred/words/sentence';
import { progressBar } from './progress.ts';

/** How many pairs between two looks at the bar. */
const STEP = 200;

export function listClashes(a: PreparedModel, b: PreparedModel, settings: ClashSettings) {
  const began = performance.now();
  const bar = progressBar();
  const sides = { a: a.table, b: b.table };
  const sideOf = ({ scene, table }: PreparedModel): ClashSide => ({ scene, rows: table.globalId.length });
  const left = sideOf(a);
  const right = a === b ? left : sideOf(b);
  const { clashes, candidatePairs } = findClashes(left, right, settings, (looked) => {
    if (looked % STEP === 0) bar.show(`${looked} pairs looked at`, 0);
  });
  bar.end();
  // Of a model against itself an element is one, on whichever side it stands.
  const keyOf = (side: 'a' | 'b', row: number): string => (a === b ? `a${row}` : `${side}${row}`);
  const met = clashes.map((clash) => ({ a: keyOf('a', clash.a), b: keyOf('b', clash.b) }));
  const rowOf = (key: string): number => Number(key.slice(1));
  const elementOf = (key: string): ClashingElement & { type: string } => {
    const { types, type, classes, class: of, name, nodes, node } = sides[key[0] as 'a' | 'b'];
    const row = rowOf(key);
    return {
      ...{ class: classes[of[row]!]!, name: name[row]!, type: types[type[row]!] ?? classes[of[row]!]! },
      ...{
        storey: nodes[storeyOf(nodes, node[row]!)]?.name ?? '',
        model: a === b ? 'the model' : `model ${key[0]!.toUpperCase()}`,
      },
    };
  };
  const storeys = { a: storeysIn(a), b: storeysIn(b) };
  const properties = { a: decodeProperties(a.properties.buffer), b: decodeProperties(b.properties.buffer) };
  const known: KnownOf = {
    type: (key) => elementOf(key).type,
    system: (key) => systemOf(properties[key[0] as 'a' | 'b'], rowOf(key)),
    storey: (key) => {
      const storey = storeys[key[0] as 'a' | 'b'].of[rowOf(key)]!;
      return storey < 0 ? '' : `${key[0]}${storey}`;
    },
    model: (key) => key[0]!,
    elementsIn: (key) =>
      key.length > 1 ? storeys[key[0] as 'a' | 'b'].counts.get(rowOf(key))! : sides[key as 'a' | 'b'].globalId.length,
  };
  const groups = groupClashes(met, known).map((group) => ({
    name: nameGroup(
      group.cause,
      group.clashes.map((i) => met[i]!),
      elementOf,
      known,
    ),
    clashes: group.clashes,
  }));
  const far = farApart(a.bounds.elements, b.bounds.elements);
  const notes = far === null ? [] : [sayFarApart(far)];
  const seconds = Math.round(performance.now() - began) / 1000;
  const data = {
    clashes: clashes.map(({ a: i, b: j, at, ...clash }) => ({
      a: a.table.globalId[i]!,
      b: b.table.globalId[j]!,
      kind: clash.kind,
      ...(clash.kind === 'hard' && clash.depth !== null && { depthMm: millimetres(clash.depth) }),
      ...(clash.kind === 'hard' && clash.depth === null && { open: true }),
      ...(clash.kind === 'clearance' && { gapMm: millimetres(clash.gap) }),
      point: at.map((value) => Math.round(value * 1e4) / 1e4),
    })),
    groups,
    notes: notes.map((note) => `far-apart: ${note}`),
    stats: { elementsA: left.rows, elementsB: right.rows, candidatePairs, seconds },
  };
  const text = [
    ...notes,
    `${counted(clashes.length, 'clash', 'clashes')} in ${counted(groups.length, 'group')}; ${candidatePairs} pairs looked at in ${seconds} s`,
    ...groups.flatMap(({ name, clashes: own }) => [
      `${name}:`,
      ...own.map(
        (i) => `    ${say(clashes[i]!)} at ${data.clashes[i]!.point.map((value) => value.toFixed(2)).join(', ')}`,
      ),
    ]),
  ].join('\n');
  return { data, text, findings: clashes.length };
}

/** Of each element its storey, −1 where it stands on none, and how many stand on each. */
function storeysIn({ table: { nodes, node } }: PreparedModel): { of: number[]; counts: Map<number, number> } {
  const of = node.map((at) => storeyOf(nodes, at));
  const counts = new Map<number, number>();
  for (const storey of of) counts.set(storey, (counts.get(storey) ?? 0) + 1);
  return { of, counts };
}

const millimetres = (metres: number): number => Math.round(metres * 1e4) / 10;

function say(clash: Clash): string {
  if (clash.kind === 'duplicate') return 'the same twice';
  if (clash.kind === 'clearance') return `${millimetres(clash.gap)} mm apart`;
  return clash.depth === null ? 'meet (a surface is not closed)' : `${millimetres(clash.depth)} mm deep`;
}
