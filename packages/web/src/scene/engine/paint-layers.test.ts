import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { elementNumber } from './element-numbers.ts';
import { PaintLayers, type Look } from './paint-layers.ts';

const ROWS = 6;
const looks = new Map<number, Look[]>();
const model = (slot: number) => {
  const mine: Look[] = Array.from({ length: ROWS }, () => 'own');
  looks.set(slot, mine);
  return { elements: ROWS, paint: (row: number, look: Look) => void (mine[row] = look) };
};
let layers: PaintLayers;
beforeEach(() => {
  layers = new PaintLayers();
  layers.addModel(1, model(1));
  layers.addModel(2, model(2));
});
const at = (row: number, slot = 1): number => elementNumber(slot, row);
const look = (row: number, slot = 1): Look => looks.get(slot)![row]!;

describe('layers of paint', () => {
  it('a selection replaces the one before, or grows and shrinks by what is added', () => {
    layers.select([at(1)]);
    layers.select([at(2)]);
    expect([look(1), look(2)]).toEqual(['own', 'selected']);
    layers.select([at(3, 2)], true);
    layers.select([at(2)], true);
    expect([...layers.selection]).toEqual([at(3, 2)]);
    expect([look(2), look(3, 2)]).toEqual(['own', 'selected']);
  });

  it('what is isolated next paints only what becomes another', () => {
    layers.isolate([at(0), at(1)], 'ghost');
    const painted: number[] = [];
    layers.addModel(3, { elements: ROWS, paint: (row) => void painted.push(row) });
    layers.isolate([at(1), at(2), at(1, 3)], 'ghost');
    expect([0, 1, 2, 3].map((row) => look(row))).toEqual(['ghost', 'own', 'own', 'ghost']);
    painted.length = 0;
    layers.isolate([at(2), at(1, 3), at(4, 3)], 'ghost');
    expect(painted).toEqual([4]);
    layers.isolate([at(2)], 'hidden');
    expect([1, 2, 3].map((row) => look(row))).toEqual(['hidden', 'own', 'hidden']);
  });

  it('what is hidden is selected no more, and stays hidden among what is isolated', () => {
    layers.select([at(1), at(2)]);
    layers.hide([at(1)]);
    expect([...layers.selection]).toEqual([at(2)]);
    layers.isolate([at(1), at(2)]);
    expect([0, 1, 2].map((row) => look(row))).toEqual(['hidden', 'hidden', 'selected']);
    expect(look(0, 2)).toBe('hidden');
    layers.showAll();
    expect(look(1)).toBe('own');
    expect(layers.isThinned).toBe(false);
  });

  it('what others have selected has their colour, under my own selection and over ghosts, until they let go', () => {
    layers.ghost([at(1)]);
    layers.selectOfOthers(new Map([1, 2, 3].map((row) => [at(row), 0x112233])));
    layers.select([at(2)]);
    layers.hide([at(3)]);
    expect([0, 1, 2, 3].map((row) => look(row))).toEqual(['own', 0x112233, 'selected', 'hidden']);
    layers.select([]);
    expect(look(2)).toBe(0x112233);
    layers.selectOfOthers(new Map([[at(0, 2), 0x445566]]));
    expect([0, 1, 2, 3].map((row) => look(row))).toEqual(['own', 'ghost', 'own', 'hidden']);
    expect(look(0, 2)).toBe(0x445566);
  });

  it('what is shown while others are isolated stands among them', () => {
    layers.isolate([at(1)]);
    layers.show([at(2)]);
    expect([0, 1, 2].map((row) => look(row))).toEqual(['hidden', 'own', 'own']);
  });

  it('what is isolated stands among ghosts on wish; a click goes through them', () => {
    layers.isolate([at(1)], 'ghost');
    expect([look(0), look(1)]).toEqual(['ghost', 'own']);
    expect([layers.isSolid(1, 0), layers.isSolid(1, 1)]).toEqual([false, true]);
    expect(layers.isHidden(at(0))).toBe(false);
    layers.ghost([at(1)]);
    expect(layers.solids()).toEqual([]);
    layers.ghost([at(1)]);
    expect(layers.solids()).toEqual([at(1)]);
  });

  it('colours lie under the selection, and go away again', () => {
    layers.colour(new Map([[1, Int32Array.of(-1, 0, 0x336699, -1, -1, -1)]]));
    expect([look(0), look(1), look(2)]).toEqual(['own', 0, 0x336699]);
    layers.select([at(2)]);
    expect(look(2)).toBe('selected');
    layers.select([]);
    expect(look(2)).toBe(0x336699);
    layers.colour(null);
    expect(look(2)).toBe('own');
  });

  it('a model that comes while others are isolated is outside; one that goes takes its selection along', () => {
    layers.isolate([at(1)]);
    layers.addModel(3, model(3));
    expect(look(0, 3)).toBe('hidden');
    layers.select([at(1), at(0, 3)]);
    layers.removeModel(3);
    expect([...layers.selection]).toEqual([at(1)]);
    layers.hide([at(0, 3)]);
  });

  it('comes back as it was kept, whatever was done', () => {
    const some = fc.uniqueArray(fc.tuple(fc.nat(ROWS - 1), fc.constantFrom(1, 2)), { maxLength: 8 });
    const act = fc.tuple(fc.constantFrom('hide', 'show', 'ghost', 'isolate', 'select', 'showAll'), some);
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        layers.apply({ hidden: [], ghosts: [], isolated: null, rest: 'hidden', selection: [] });
        for (const [name, elements] of acts) {
          const numbers = elements.map(([row, slot]) => at(row, slot));
          if (name === 'showAll') layers.showAll();
          else layers[name as 'hide'](numbers);
        }
        const kept = layers.state();
        const seen = [1, 2].map((slot) => [...looks.get(slot)!]);
        layers.apply({ hidden: [at(0)], ghosts: [], isolated: [at(1)], rest: 'ghost', selection: [at(3)] });
        layers.apply(kept);
        expect([1, 2].map((slot) => looks.get(slot))).toEqual(seen);
        expect(layers.state()).toEqual(kept);
      }),
    );
  });
});
