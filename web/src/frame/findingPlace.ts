import type { Finding } from '../api/types.gen';

/** Where in Gather a finding is seen to, by its code; the rest is about the lists. */
const gatherPart: Record<string, string> = {
  'reading-overturns': 'readings',
  'reading-contradicts': 'readings',
  'reading-through-load': 'readings',
  'trace-lost': 'readings',
  'ends-unseen': 'readings',
  'to-replace': 'connectors',
  'did-not-work': 'before',
  'unplugged-wrongly': 'before',
  'unit-not-read': 'vehicles',
  'programming-open': 'vehicles',
  'no-programmer': 'vehicles',
  'no-immobiliser-plan': 'vehicles',
  'firing-order': 'vehicles',
  'cylinder-count': 'vehicles',
  'coil-pair': 'vehicles',
  'mixed-sources': 'vehicles',
  'origin-unknown': 'vehicles',
  'origins-meet': 'vehicles',
  'tables-differ': 'tables',
};

/** Where in Pin a finding is seen to. */
function pinPart(code: string, subject: string): string {
  if (code.startsWith('second-check')) {
    return '?part=check';
  }
  if (code === 'halves-do-not-meet') {
    return `?part=faces&connector=${encodeURIComponent(subject)}`;
  }
  return ['re-crimp', 'pigtail', 'exchange-to-verify', 'exchange-lost'].includes(code) ? '?part=parts' : '';
}

/** What a finding of Thin is about, by its code. */
function thinKind(code: string): string {
  if (['part-incomplete', 'suppressor', 'rides-along', 'bus-end', 'needed-to-start'].includes(code)) {
    return 'module';
  }
  if (['passes-through', 'factory-rejoined', 'shared-splice'].includes(code)) {
    return 'joint';
  }
  return ['carries-kept', 'pair-contested', 'left-alone'].includes(code) ? 'connector' : 'wire';
}

const reachPart: Record<string, string> = {
  'bad-path': 'map',
  'path-twice': 'map',
  'station-twice': 'map',
  'station-alone': 'map',
  provisional: 'map',
  unplaced: 'places',
  'place-gone': 'places',
  'carried-places': 'places',
  'carried-map': 'map',
  'joints-crowd': 'joints',
  'keep-apart': 'bundles',
  'raw-edge': 'bundles',
  tied: 'bundles',
  'parts-nothing': 'bundles',
  'plug-full': 'bundles',
  'not-parted': 'bundles',
  'steps-held': 'work',
  'done-unwanted': 'work',
  'tick-lost': 'work',
};

/** Where in Reach a finding is seen to: a part of it, or the wire that it is about. */
function reachPlace(code: string, subject: string): string {
  const part = reachPart[code];
  return part ? `?part=${part}` : `?part=cuts&only=all&wire=${encodeURIComponent(subject)}`;
}

/** Where in Feed a finding is seen to: the line of a list, the fuses and grounds, or the tree. */
function feedPlace(code: string, subject: string): string {
  if (code === 'feed-cannot-be' || code === 'usual-not-looked') {
    return `?part=sources&list=${encodeURIComponent(subject.split(',')[0] ?? '')}`;
  }
  if (code === 'no-key') {
    return '?part=sources&list=switches';
  }
  if (code === 'carried-lists') {
    return '?part=sources';
  }
  if (
    code === 'carried-feeds' ||
    code === 'fuse-none' ||
    code === 'fed-through-resistance' ||
    code === 'fuse-gone'
  ) {
    return '?part=block';
  }
  if (
    code.startsWith('fuse-') ||
    code.startsWith('ground-') ||
    code.startsWith('sensor-') ||
    code === 'shield-both-ends' ||
    code === 'contact-thin' ||
    ['unprotected', 'not-selective', 'two-feeds', 'battery-far', 'spare-feed'].includes(code)
  ) {
    return '?part=fuses';
  }
  const key = ['stays-awake', 'relay-held-off'].includes(code)
    ? 'off'
    : code === 'feed-drops-in-crank'
      ? 'crank'
      : 'running';
  return `?part=live&key=${key}&sel=${encodeURIComponent(subject)}`;
}

/** Where in Prove a finding is seen to, by its code. */
const provePart: Record<string, string> = {
  'out-of-band': 'fault',
  'two-changes': 'records',
  'record-open': 'records',
  'code-after': 'unit',
  'gate-stands': 'power',
};

/** Where a finding is seen to: the address below the job. */
export function findingPlace(f: Pick<Finding, 'code' | 'stage' | 'side' | 'subject'>): string {
  const subject = f.subject ?? '';
  switch (f.stage) {
    case 'gather':
      return `gather?part=${gatherPart[f.code] ?? 'lists'}`;
    case 'thin':
      return `thin?sel=${encodeURIComponent(`${thinKind(f.code)}:${subject}`)}`;
    case 'pin':
      return `pin${pinPart(f.code, subject)}`;
    case 'reach':
      return `reach${reachPlace(f.code, subject)}`;
    case 'feed':
      return `feed${feedPlace(f.code, subject)}`;
    case 'prove':
      return `prove?part=${provePart[f.code] ?? 'sheet'}`;
  }
  if (f.stage === 'join' && f.subject) {
    return `join?sel=${encodeURIComponent(f.subject)}`;
  }
  if (f.stage === 'work' || f.stage === 'join') {
    return `work${subject ? `?own=${encodeURIComponent(subject)}` : ''}`;
  }
  return `match?row=${encodeURIComponent(`${f.side ?? 'from'} ${subject}`)}`;
}
