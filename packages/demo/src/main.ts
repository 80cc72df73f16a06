import { StationStory } from './story/station.ts';

const [address] = process.argv.slice(2);
const clockSecret = process.env.KS_DEMO_CLOCK;
if (!address || !clockSecret) throw new Error('Usage: KS_DEMO_CLOCK=secret main.ts http://127.0.0.1:PORT');
console.log('Loading the demo …');
await new StationStory(address, clockSecret, (line) => console.log(`  ${line}`)).tell();
