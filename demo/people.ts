// The made-up members of the made-up station.
import type { Role } from '@meridiem/contract';

export interface DemoPerson {
  readonly key: string;
  readonly name: string;
  readonly role: Role;
  readonly timeZone: string;
}

export const DEMO_PASSWORD = 'southern-lights';

export const PEOPLE: readonly DemoPerson[] = [
  { key: 'ilse', name: 'Ilse Marwick', role: 'coordinator', timeZone: 'Australia/Adelaide' },
  { key: 'ruan', name: 'Ruan Aldous', role: 'member', timeZone: 'Africa/Johannesburg' },
  { key: 'mirela', name: 'Mirela Costin', role: 'member', timeZone: 'Europe/Bucharest' },
  { key: 'jonah', name: 'Jonah Teague', role: 'member', timeZone: 'America/Toronto' },
  { key: 'petra', name: 'Petra Lindholm', role: 'helper', timeZone: 'Australia/Adelaide' },
  { key: 'sam', name: 'Sam Ferrow', role: 'guest', timeZone: 'Pacific/Auckland' },
];

/** Shares of moonless and of moonlit hours, by person: who images gas has more of the moonlit ones. */
export const AGREED_SHARES: readonly (readonly [key: string, dark: number, bright: number])[] = [
  ['ruan', 0.35, 0.1],
  ['mirela', 0.25, 0.5],
  ['jonah', 0.2, 0.2],
  ['petra', 0.1, 0.1],
  ['ilse', 0.1, 0.1],
];

export const emailOf = (person: Pick<DemoPerson, 'key'>): string => `${person.key}@saltbush.example`;
