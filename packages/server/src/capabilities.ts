/** The capabilities of the server in their order: one may use those before it, never those after it. */
import { bcf } from './bcf/capability.ts';
import { clash } from './clash/capability.ts';
import { compare } from './compare/capability.ts';
import { drawing } from './drawing/capability.ts';
import { federation } from './federation/capability.ts';
import { identity } from './identity/capability.ts';
import { insight } from './insight/capability.ts';
import { issuesCapability } from './issues/capability.ts';
import { markup } from './markup/capability.ts';
import { naming } from './naming/capability.ts';
import { people } from './people/capability.ts';
import { Capabilities } from './platform/capability.ts';
import { plan } from './plan/capability.ts';
import { platformCapability } from './platform/platform-capability.ts';
import { portfolio } from './portfolio/capability.ts';
import { preparation } from './preparation/capability.ts';
import { register } from './register/capability.ts';
import { reviewCapability } from './review/capability.ts';
import { scene } from './scene/capability.ts';
import { things } from './things/capability.ts';
import { transmittal } from './transmittal/capability.ts';

export const capabilities = new Capabilities([
  platformCapability,
  identity,
  things,
  portfolio,
  people,
  naming,
  register,
  preparation,
  drawing,
  scene,
  federation,
  plan,
  markup,
  issuesCapability,
  compare,
  clash,
  bcf,
  reviewCapability,
  transmittal,
  insight,
]);
