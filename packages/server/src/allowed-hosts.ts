// Addresses that people write are called only on hosts that the one who runs the server allows.

/** Whether an address is of the web, holds no password, and is on one of the hosts; hosts carry their port where it is not the usual one. */
export function hostAllowed(url: string, hosts: readonly string[]): boolean {
  if (!URL.canParse(url)) return false;
  const { protocol, username, password, host } = new URL(url);
  return /^https?:$/.test(protocol) && !username && !password && hosts.includes(host);
}
