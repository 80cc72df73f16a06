import { tellStation } from './story/station.ts';
import { Teller } from './story/teller.ts';

const [address] = process.argv.slice(2);
const clockSecret = process.env.KS_DEMO_CLOCK;
if (!address || !clockSecret) throw new Error('Usage: KS_DEMO_CLOCK=secret main.ts http://127.0.0.1:PORT');
console.log('Loading the demo …');
await tellStation(new Teller(address, clockSecret), (line) => console.log(`  ${line}`));
