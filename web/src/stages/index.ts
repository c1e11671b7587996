import type { Stage } from '../frame/stages';
import { feed } from './feed';
import { gather } from './gather';
import { handover } from './handover';
import { join } from './join';
import { match } from './match';
import { pin } from './pin';
import { prove } from './prove';
import { reach } from './reach';
import { thin } from './thin';

/** The stages in the order of the rail. */
export const stages: readonly Stage[] = [gather, match, thin, pin, reach, feed, join, prove, handover];
