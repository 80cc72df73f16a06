/** A change brief: what was asked of a drawing, held against what changed. */
import Flatbush from 'flatbush';
import type { SheetChange } from './compare-sheets.ts';
import { mappedBox } from './compare-sheets.ts';
import type { Place } from './numbered.ts';
import type { Similarity } from './similarity.ts';

export interface BriefRequest {
  id: string;
  text: string;
  /** Of the version before; null where it is about no sheet in particular. */
  page: number | null;
  /** On that page; null where it names no place. */
  place: Place | null;
}
export interface BriefSheet {
  /** Of the pair of sheets in its comparison. */
  position: number;
  beforePage: number | null;
  similarity: Similarity;
  changes: readonly (Pick<SheetChange, 'before' | 'after'> & { number: number; place: Place })[];
}
/** A change, by the sheet and its number there. */
export interface ChangeName {
  position: number;
  number: number;
}
/** What a person said of a change. */
export interface Judgement extends ChangeName {
  asked: boolean;
  /** The requests that it answers. */
  requestIds: readonly string[];
}
/** `ticked`: by a person; otherwise it is proposed. */
export interface BriefChange extends Judgement {
  ticked: boolean;
}
export interface AnsweredRequest {
  id: string;
  /** None: what was asked for is missing. */
  changes: ChangeName[];
  /** A person ticked at least one of them. */
  ticked: boolean;
}
export interface BriefCounts {
  /** Requests with a change. */
  found: number;
  /** Requests without one. */
  missing: number;
  /** Changes that nobody asked for. */
  notAsked: number;
  /** Changes of which nobody has said yet whether they were asked for. */
  toTick: number;
}
export interface Brief {
  requests: AnsweredRequest[];
  changes: BriefChange[];
  counts: BriefCounts;
}

/** Points on paper: a change so near to where something was asked may be the answer. */
const NEAR = 42;
/** A word so short is part of many others. */
const LEAST_WORD = 3;

export function briefOf(
  requests: readonly BriefRequest[],
  sheets: readonly BriefSheet[],
  judgements: readonly Judgement[],
): Brief {
  const known = new Set(requests.map(({ id }) => id));
  const said = new Map(judgements.map((one) => [keyOf(one), one]));
  const changes = sheets.flatMap((sheet) => {
    const proposed = proposalsOn(sheet, requests);
    return sheet.changes.map(({ number }, i): BriefChange => {
      const name = { position: sheet.position, number };
      const ticked = said.get(keyOf(name));
      if (!ticked) return { ...name, asked: proposed[i]!.length > 0, requestIds: proposed[i]!, ticked: false };
      return { ...ticked, requestIds: ticked.requestIds.filter((id) => known.has(id)), ticked: true };
    });
  });
  const answers = new Map(
    requests.map(({ id }): [string, AnsweredRequest] => [id, { id, changes: [], ticked: false }]),
  );
  for (const { asked, ticked, requestIds, position, number } of changes)
    for (const id of asked ? requestIds : []) {
      const answer = answers.get(id)!;
      answer.changes.push({ position, number });
      answer.ticked ||= ticked;
    }
  const answered = [...answers.values()];
  return { requests: answered, changes, counts: countsOf(answered, changes) };
}

export function countsOf(requests: readonly AnsweredRequest[], changes: readonly BriefChange[]): BriefCounts {
  const found = requests.filter((request) => request.changes.length).length;
  return {
    found,
    missing: requests.length - found,
    notAsked: changes.filter(({ asked }) => !asked).length,
    toTick: changes.filter(({ ticked }) => !ticked).length,
  };
}

const keyOf = ({ position, number }: ChangeName): string => `${position} ${number}`;

/** For each change of a sheet the requests that it may answer: those around it, else the nearest one; and those that name its words. */
function proposalsOn({ beforePage, similarity, changes }: BriefSheet, all: readonly BriefRequest[]): string[][] {
  const requests = all.filter(({ page }) => page === null || page === beforePage);
  const placed = requests.flatMap(({ id, place }) => {
    if (!place) return [];
    const [x, y, w, h] = place;
    return [{ id, box: mappedBox([x, y, x + w, y + h], similarity) }];
  });
  const index = placed.length ? new Flatbush(placed.length) : undefined;
  for (const { box } of placed) index?.add(...box);
  index?.finish();
  const texts = requests.map(({ id, text }) => ({ id, text: plain(text), quoted: quotedIn(plain(text)) }));
  return changes.map(({ place: [x, y, w, h], before, after }) => {
    const near = (index?.search(x - NEAR, y - NEAR, x + w + NEAR, y + h + NEAR) ?? []).map((i) => {
      const [x0, y0, x1, y1] = placed[i]!.box;
      const gap = Math.hypot(Math.max(0, x0 - x - w, x - x1), Math.max(0, y0 - y - h, y - y1));
      return { id: placed[i]!.id, gap };
    });
    near.sort((a, b) => a.gap - b.gap);
    const around = near.filter(({ gap }, i) => gap === 0 || i === 0).map(({ id }) => id);
    const words = [before, after].flatMap((text) => (text && text.length >= LEAST_WORD ? plain(text) : []));
    const naming = texts.filter(({ text, quoted }) =>
      words.some((word) => text.includes(word) || quoted.some((phrase) => word.includes(phrase))),
    );
    return [...new Set([...around, ...naming.map(({ id }) => id)])];
  });
}
/** What stands in quotation marks. */
const quotedIn = (text: string): string[] =>
  text.split(/[“”"„«»]/).filter((phrase, i) => i % 2 === 1 && phrase.trim().length >= LEAST_WORD);
const plain = (text: string): string => text.toLowerCase().replace(/\s+/g, ' ').trim();
