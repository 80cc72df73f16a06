import { expect, it } from 'vitest';
import { sayPropertyChange, sayShapeChange } from './model-changes.ts';

it('says how an element was moved, turned and built otherwise', () => {
  const nothing = { moved: null, turned: null, geometry: null };
  expect(sayShapeChange(nothing)).toBe('');
  expect(sayShapeChange({ ...nothing, moved: [0.3, -0.4, 0] })).toBe('moved by 0.5 m (0.3, -0.4, 0)');
  expect(sayShapeChange({ ...nothing, turned: { axis: [0, 0, 1], degrees: -89.96 } })).toBe('turned by -90°');
  expect(sayShapeChange({ ...nothing, turned: { axis: [1, 0, 0], degrees: 15 } })).toBe(
    'turned by 15° about (1.00, 0.00, 0.00)',
  );
  expect(sayShapeChange({ ...nothing, geometry: { length: [5, 5.2], volume: [4.5, 4.68] } })).toBe(
    'length 5 → 5.2 m, volume 4.5 → 4.68 m³',
  );
  expect(sayShapeChange({ ...nothing, geometry: {} })).toBe('another shape of the same size');
});

it('says what was said, what is said, and what is said no more', () => {
  const change = { set: 'Pset_WallCommon', name: 'FireRating', before: { value: 'EI 30' }, after: { value: 'EI 60' } };
  expect(sayPropertyChange(change)).toBe('Pset_WallCommon / FireRating: EI 30 → EI 60');
  expect(sayPropertyChange({ ...change, set: '', name: 'Name', before: null })).toBe('Name: not said → EI 60');
  expect(sayPropertyChange({ ...change, name: 'Width', before: { value: 300, unit: 'mm' }, after: null })).toBe(
    'Pset_WallCommon / Width: 300 mm → not said',
  );
});
