import { AppError } from '@under-chalk/core/errors/errors';
import { lookup } from 'node:dns/promises';
import { BlockList, isIP, isIPv6 } from 'node:net';

/** Addresses of no public host (IANA special-purpose address registries, RFC 6890). */
const PRIVATE = new BlockList();
for (const [net, bits] of [
  ...([
    ['0.0.0.0', 8],
    ['10.0.0.0', 8],
    ['100.64.0.0', 10],
    ['127.0.0.0', 8],
  ] as const),
  ...([
    ['169.254.0.0', 16],
    ['172.16.0.0', 12],
    ['192.0.0.0', 24],
    ['192.168.0.0', 16],
  ] as const),
  ...([
    ['198.18.0.0', 15],
    ['224.0.0.0', 4],
    ['240.0.0.0', 4],
  ] as const),
] as const)
  PRIVATE.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ...([
    ['::', 127],
    ['64:ff9b::', 96],
    ['fc00::', 7],
  ] as const),
  ...([
    ['fe80::', 10],
    ['ff00::', 8],
  ] as const),
] as const)
  PRIVATE.addSubnet(net, bits, 'ipv6');

const LOCAL_NAMES = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Refuses what isn't a site on the internet: plain http, and hosts of the machine's own network, which whoever makes us ask them
 * could tell ports of. Under Chalk on a single machine, opened there by itself, takes sites of that machine too.
 *
 * A name can resolve to another address in the request that follows (DNS rebinding). That reaches only a host with a valid
 * certificate for the name, because plain http is refused and redirects are not followed: nothing of a private network has one.
 *
 * @param origin where we are
 * @throws AppError `site-unfit`, `site-unreachable` for a name that nobody knows
 */
export const mustBePublic = async (address: string, origin: string): Promise<void> => {
  if (LOCAL_NAMES.includes(new URL(origin).hostname)) return;
  const url = new URL(address);
  if (url.protocol !== 'https:') throw new AppError('site-unfit', 'it isn’t encrypted');
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const found = isIP(host)
    ? [{ address: host }]
    : await lookup(host, { all: true }).catch((error: unknown) => {
        throw new AppError('site-unreachable', host, { cause: error });
      });
  for (const { address: ip } of found)
    if (PRIVATE.check(ip, isIPv6(ip) ? 'ipv6' : 'ipv4'))
      throw new AppError('site-unfit', 'its host is on a private network');
};
