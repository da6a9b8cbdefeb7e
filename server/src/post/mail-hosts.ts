import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { domainToASCII } from 'node:url';

/** Thrown where an account may not lead there; the message is a sentence for the person. */
export class HostRefused extends Error {
  override name = 'HostRefused';
}

/** Ports at which mail servers take messages: RFC 5321, RFC 8314, RFC 6409, and 2525 by common practice. */
const PORTS = [25, 465, 587, 2525];

/** RFC 8314 and RFC 3501. */
export const IMAP_PORTS = [993, 143];

/** Addresses that belong to no public server (IANA special-purpose address registries). */
const INNER = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 3],
] as const)
  INNER.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 127],
  ['64:ff9b::', 96],
  ['100::', 64],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  INNER.addSubnet(net, bits, 'ipv6');

/** Where a mail account may lead: to public mail servers, and to those that the settings name. */
export class MailHosts {
  private readonly named: ReadonlySet<string>;

  /** @param named `host:port` of mail servers inside the own network. */
  constructor(named: readonly string[]) {
    this.named = new Set(named.map((one) => one.toLowerCase()));
  }

  /** True where the settings name it, so that whoever runs the server vouches for the way there. */
  isNamed(host: string, port: number): boolean {
    return this.named.has(`${host.toLowerCase()}:${port}`);
  }

  /**
   * The address to connect to. It is looked up once, so that it cannot be another one by then.
   *
   * @param ports those that a public server may have.
   * @throws HostRefused
   */
  async addressOf(
    host: string,
    port: number,
    ports = PORTS,
  ): Promise<{ readonly address: string; readonly name: string }> {
    const plain = host.replace(/^\[(.*)\]$/, '$1');
    const name = isIP(plain) ? plain : domainToASCII(plain);
    const named = this.isNamed(host, port);
    if (!named && !ports.includes(port))
      throw new HostRefused(
        `Mail servers ${ports === PORTS ? 'take messages' : 'show mailboxes'} at port ${ports.slice(0, -1).join(', ')} or ${ports.at(-1)!}, not at ${port}.`,
      );
    if (name === '') throw new HostRefused(`“${host}” is not the name of a server.`);
    let addresses: string[];
    try {
      addresses = isIP(name) ? [name] : (await lookup(name, { all: true })).map(({ address }) => address);
    } catch {
      throw new HostRefused(`There is no server by the name “${host}”, or it cannot be looked up now.`);
    }
    const address = named ? addresses[0] : addresses.find((one) => !isInner(one));
    if (address === undefined)
      throw new HostRefused(
        `“${host}” lies inside the network that Scriptum runs in. Whoever runs it has to allow it first (SCRIPTUM_MAIL_HOSTS).`,
      );
    return { address, name };
  }
}

/** IPv4 addresses that are written as IPv6 ones are checked as what they are. */
const isInner = (address: string): boolean => INNER.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4');
