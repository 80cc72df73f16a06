export interface DemoPerson {
  name: string;
  email: string;
  party: { name: string; code: string };
  team: string | null;
  roles: string[];
  administrator?: boolean;
}

const OHT = { name: 'Orrin Harbour Trust', code: 'OHT' };
const TVA = { name: 'Ternvale Architects', code: 'TVA' };
const HQS = { name: 'Holmquay Structures', code: 'HQS' };
const BWS = { name: 'Brackwater Services', code: 'BWS' };
const QMW = { name: 'Quillon Marine Works', code: 'QMW' };

const person = (name: string, party: DemoPerson['party'], team: string | null, ...roles: string[]): DemoPerson => ({
  name,
  email: `${name.toLowerCase().replace(/[^a-z]+/g, '.')}@${party.code.toLowerCase()}.example`,
  party,
  team,
  roles,
});

/** A dozen invented people; the first founds the project. */
export const PEOPLE: DemoPerson[] = [
  { ...person('Maren Tolvik', TVA, 'Architecture', 'Coordinator'), administrator: true },
  person('Jonas Ferreby', TVA, 'Architecture', 'Author', 'Reviewer'),
  person('Lil Asantewa', TVA, 'Architecture', 'Author'),
  person('Petra Vossling', HQS, 'Structure', 'Author'),
  person('Idris Callowby', HQS, 'Structure', 'Author', 'Reviewer'),
  person('Noor Haddingley', BWS, 'Services', 'Author'),
  person('Sven Marlowe-Tait', BWS, 'Services', 'Author', 'Reviewer'),
  person('Aoife Dunmarrow', QMW, null, 'Document controller'),
  person('Ruben Okafield', QMW, null, 'Reviewer'),
  person('Greta Halvers', QMW, null, 'Reviewer'),
  person('Edda Quistgard', OHT, null, 'Client', 'Reviewer'),
  person('Tomas Brellin', OHT, null, 'Client'),
];
