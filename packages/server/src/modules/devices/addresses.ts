// Where the devices of a rig answer: on an allowed host, or in the simulated observatory that ships with the application.
import type { RigDevices } from '@meridiem/contract';
import type { Config } from '../../config.ts';
import { refused } from '../../errors.ts';

/** @throws VALUE_REFUSED in words where devices can't be there */
export function checkAddress(url: string, hosts: readonly string[]): string {
  let address: URL;
  try {
    address = new URL(url.trim());
  } catch {
    throw refused('url', 'This is no address like http://devices.example:11111');
  }
  if (address.protocol !== 'http:' && address.protocol !== 'https:')
    throw refused('url', 'The address must begin with http:// or https://');
  if (address.username || address.password) throw refused('url', 'The address must not hold a password');
  if (!hosts.includes(address.host))
    throw refused(
      'url',
      hosts.length === 0
        ? 'No device address is allowed here: the hosts they may be on are set where the server is started'
        : `${address.host} is not allowed here; allowed are ${hosts.join(', ')}`,
    );
  return `${address.origin}${address.pathname.replace(/\/$/, '')}`;
}

/** @returns null where the rig has no devices, or the simulated observatory does not run */
export function baseUrlOf(
  { kind, url, rigId }: Pick<RigDevices, 'kind' | 'url' | 'rigId'>,
  { simulatorUrl, deviceHosts }: Pick<Config, 'simulatorUrl' | 'deviceHosts'>,
): string | null {
  if (kind === 'simulated') return simulatorUrl && `${simulatorUrl}/rigs/${rigId}`;
  // A host that is allowed no longer is asked no longer, whatever is stored.
  return kind === 'address' && url && deviceHosts.includes(new URL(url).host) ? url : null;
}
