// A rig's devices: where they answer, and whether they do.
import type { NightRuleName } from '@meridiem/core';
import { NIGHT_RULE_NAMES } from '@meridiem/core';
import type { Static, TNumber, TOptional } from 'typebox';
import { Type } from 'typebox';
import { DEVICE_KINDS } from './equipment.ts';
import { Id, IdParams, Nullable, Ok, oneOf } from './common.ts';
import { COORDINATORS, operation } from './operation.ts';

/** Only those that a rig has of its own. */
const OwnNightRules = Type.Object(
  Object.fromEntries(NIGHT_RULE_NAMES.map((name) => [name, Type.Optional(Type.Number())])) as Record<
    NightRuleName,
    TOptional<TNumber>
  >,
);

export const RigDevices = Type.Object({
  rigId: Id,
  kind: oneOf(DEVICE_KINDS),
  /** Where devices of kind "address" answer. */
  url: Nullable(Type.String({ maxLength: 300 })),
  /** Hosts that devices may be on; set where the server is started. */
  hosts: Type.Array(Type.String()),
  /** Numbers of its nights that differ from the usual ones; see NIGHT_RULES of the core. */
  nightRules: OwnNightRules,
});
export type RigDevices = Static<typeof RigDevices>;

export const readRigDevices = operation({
  method: 'GET',
  path: '/rigs/:id/devices',
  summary: 'How a rig’s devices are reached.',
  access: COORDINATORS,
  params: IdParams,
  response: RigDevices,
});

export const editRigDevices = operation({
  method: 'PUT',
  path: '/rigs/:id/devices',
  summary: 'Set how a rig’s devices are reached; an address must be on an allowed host.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ kind: oneOf(DEVICE_KINDS), url: Nullable(Type.String({ maxLength: 300 })) }),
  response: Ok,
});

export const setNightRule = operation({
  method: 'PUT',
  path: '/rigs/:id/night-rules',
  summary: 'Set a number by which a rig’s nights are carried out; null for the usual one.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ name: oneOf(NIGHT_RULE_NAMES), value: Nullable(Type.Number()) }),
  response: Ok,
});

export const DeviceTest = Type.Object({
  /** As people know it: "mount", "filter wheel". */
  device: Type.String(),
  answers: Type.Boolean(),
  words: Type.String(),
});
export type DeviceTest = Static<typeof DeviceTest>;

export const testRigDevices = operation({
  method: 'POST',
  path: '/rigs/:id/devices/test',
  summary: 'Ask each device of a rig for its name; nothing moves.',
  access: COORDINATORS,
  params: IdParams,
  response: Type.Object({ devices: Type.Array(DeviceTest) }),
});
