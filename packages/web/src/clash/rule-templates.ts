/** Rules to begin with; whoever takes one changes it as the project needs it. */
import type { ClashRule } from '@kindred/core/clash/rule';
import type { ElementFilter, FilterCondition } from '@kindred/core/scene/element-filter';

const EVERYTHING: ElementFilter = { match: 'all', conditions: [] };
const anyClass = (...words: string[]): ElementFilter => ({
  match: 'any',
  conditions: words.map((value): FilterCondition => ({ set: '', name: 'Class', test: 'contains', value })),
});
const STRUCTURE = anyClass('Column', 'Beam', 'Slab', 'Footing', 'Member', 'Wall', 'Pile');
const SERVICES = anyClass('Duct', 'Pipe', 'Cable', 'Flow', 'Terminal');
const OPENINGS = anyClass('Door', 'Window', 'Stair');

export interface RuleTemplate extends ClashRule {
  name: string;
  says: string;
}
const rule = (name: string, says: string, over: Partial<ClashRule>): RuleTemplate => ({
  ...{ name, says, a: EVERYTHING, b: EVERYTHING, kinds: ['hard'], tolerance: 0.005, clearance: 0.05 },
  ...{ ignores: ['same system', 'hosted elements', 'insulation'], ...over },
});

export const RULE_TEMPLATES: readonly RuleTemplate[] = [
  rule('Services against structure', 'Ducts, pipes and cables against columns, beams, slabs and walls.', {
    ...{ a: SERVICES, b: STRUCTURE },
  }),
  rule('Services against each other', 'Ducts, pipes and cables that are in each other’s way.', {
    ...{ a: SERVICES, b: SERVICES },
  }),
  rule('Models against each other', 'Everything, but nothing within one model.', {
    ignores: ['same model', 'insulation'],
  }),
  rule('Room around services', 'Nothing nearer than 50 mm to a duct, pipe or cable, insulation too.', {
    ...{ a: SERVICES, b: EVERYTHING, kinds: ['hard', 'clearance'], ignores: ['same system', 'same model'] },
  }),
  rule('Free way', 'Doors, windows and stairs that something stands in.', {
    ...{ a: OPENINGS, b: EVERYTHING, ignores: ['same model', 'hosted elements'] },
  }),
  rule('Modelled twice', 'The same element in two models, or twice in one.', { kinds: ['duplicate'], ignores: [] }),
];
