// The one refusal of a time zone that doesn't exist.
import { isTimeZone } from '@meridiem/core';
import { refused } from './errors.ts';

/** @throws VALUE_REFUSED at the field `timeZone` */
export function requireTimeZone(timeZone: string): void {
  if (!isTimeZone(timeZone))
    throw refused('timeZone', `"${timeZone}" is no known time zone; write one like Australia/Adelaide`);
}
