/** The station as one who walks through it finds it: models written, prepared and walked. */
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { Picker } from '@kindred/core/scene/pick';
import { surroundingsOf } from '@kindred/core/scene/surroundings';
import { Walker } from '@kindred/core/scene/walk';
import { Vector3 } from 'three';
import { expect, it } from 'vitest';
import { IfcAPI } from 'web-ifc';
import { writeModel } from '../ifc/write-model.ts';
import { architecture } from './architecture.ts';
import { CREW, LEVEL } from './layout.ts';
import { structure } from './structure.ts';

it('one goes through a door, up the stair, and stops at walls', async () => {
  const api = new IfcAPI();
  await api.Init();
  const edition = { number: 2 } as const;
  const models = [architecture(edition), structure(edition)].map((parts, i) => {
    const text = writeModel(parts, { title: `Model ${i}`, organisation: 'Somebody', schema: 'IFC4' });
    const { scene, table } = prepareModel(new TextEncoder().encode(text), api);
    const isDoor = (row: number): boolean => table.classes[table.class[row]!] === 'IfcDoor';
    const stands = (instance: number): boolean => !isDoor(scene.instances.element[instance]!);
    return { scene, picker: new Picker(scene), offset: scene.origin, stands };
  });
  const feet = new Vector3(CREW.x + 15.4, CREW.y + 5, LEVEL);
  const me = new Walker(
    surroundingsOf(() => models, 0),
    feet,
  );
  const go = (x: number, y: number, steps: number): void => {
    for (let i = 0; i < steps; i++) me.walk(0.033, [x * 1.6, y * 1.6]);
  };
  // Beside the door the wall of the corridor stands.
  go(1, 0, 40);
  go(0, 1, 40);
  expect(feet.y).toBeCloseTo(CREW.y + 5.6 - 0.22, 2);
  feet.set(CREW.x + 15.4, CREW.y + 5, LEVEL);
  go(0, 1, 30);
  expect(feet.y).toBeGreaterThan(CREW.y + 6);
  go(1, 0, 100);
  expect(feet.z).toBeCloseTo(LEVEL + CREW.storeyHeight / 2, 2);
  go(0, 1, 24);
  go(-1, 0, 100);
  expect(feet.z).toBeCloseTo(LEVEL + CREW.storeyHeight, 2);
}, 120_000);
