// A project's settings as statements, each with what else it could say.
import type { Project, Role } from '@meridiem/contract';
import { COUNTING_POLICIES, PROJECT_STATES } from '@meridiem/contract';
import type { PanelOrder } from '@meridiem/core';
import { PANEL_ORDERS } from '@meridiem/core';
import type { Option } from '../../ui/Choice.tsx';

const STATE_WORDS: Readonly<Record<Project['state'], string>> = {
  draft: 'Draft',
  proposed: 'Proposed',
  returned: 'Returned',
  queued: 'Queued',
  granted: 'Granted',
  retired: 'Retired',
};
const OWNER_STATES: readonly Project['state'][] = ['draft', 'proposed', 'retired'];

/** A coordinator sets any state; an owner proposes, takes back, retires. */
export const stateOptions = ({ state }: Pick<Project, 'state'>, role: Role): Option[] =>
  PROJECT_STATES.filter((one) => role === 'coordinator' || OWNER_STATES.includes(one) || one === state).map(
    (value) => ({
      value,
      words: STATE_WORDS[value],
    }),
  );

const COUNTING_WORDS: Readonly<Record<Project['counting'], string>> = {
  all: 'every frame counts unless rejected',
  after_rules: 'frames count once the rules accept them',
  after_person: 'frames count once a person accepts them',
};
export const COUNTING_OPTIONS: readonly Option[] = COUNTING_POLICIES.map((value) => ({
  value,
  words: COUNTING_WORDS[value],
}));

export const GRADE_OPTIONS: readonly Option[] = [
  { value: '1', words: 'low grade' },
  { value: '2', words: 'usual grade' },
  { value: '3', words: 'high grade' },
];
export const RANK_OPTIONS: readonly Option[] = [
  { value: '3', words: 'first among your projects' },
  { value: '2', words: 'in the middle of your projects' },
  { value: '1', words: 'last among your projects' },
];

const PANEL_ORDER_WORDS: Readonly<Record<PanelOrder, string>> = {
  free: 'panels in whatever order adds most',
  one_per_night: 'one panel a night',
  in_turn: 'panels in turn every night',
};
export const PANEL_OPTIONS: readonly Option[] = PANEL_ORDERS.map((value) => ({
  value,
  words: PANEL_ORDER_WORDS[value],
}));

/** Exposures of a filter before the next one's turn; the group in force is always among them. */
export const filterOptionsOf = ({ filterGroup }: Pick<Project, 'filterGroup'>): Option[] =>
  [...new Set([0, 1, 2, 3, 5, 10, filterGroup])]
    .sort((a, b) => a - b)
    .map((group) => ({
      value: String(group),
      words: group === 0 ? 'one filter after the other' : `filters alternating, ${group} of each, a dither a round`,
    }));

export const ARRIVAL_STEPS = [
  { key: 'stepGuide', label: 'Guide on arrival', on: 'guided', off: 'unguided' },
  { key: 'stepCentre', label: 'Centre on arrival', on: 'centred on arrival', off: 'not centred on arrival' },
  { key: 'stepFocus', label: 'Focus on arrival', on: 'focused on arrival', off: 'not focused on arrival' },
] as const;
