import { expect, it } from '@jest/globals';
import { compositionFrom } from '../features/framing/view-model.ts';
import { presentAngleDeg } from './camera-angle.ts';

it('a frame begins at the camera’s real angle where no motor turns it', () => {
  expect(presentAngleDeg({ rotatorKind: 'hand', skyAngleDeg: 12 })).toBe(12);
  expect(presentAngleDeg({ rotatorKind: 'none', skyAngleDeg: 301.5 })).toBe(301.5);
  expect(presentAngleDeg({ rotatorKind: 'motor', skyAngleDeg: 12 })).toBe(0);
  expect(presentAngleDeg({ rotatorKind: 'hand', skyAngleDeg: null })).toBe(0);
});

it('what an address says stays, whatever the camera’s angle', () => {
  const angleOf = (address: string) => compositionFrom(new URLSearchParams(address), 12)!.positionAngleDeg;
  expect(angleOf('ra=10&dec=-30')).toBe(12);
  expect(angleOf('ra=10&dec=-30&angle=0')).toBe(0);
});
