import { TICKET_MS } from '@under-chalk/core/contract/stream';
import { LinkSeal } from '../store/link-seal';
import { LONG_TICKET_MS, Tickets } from './tickets';

const KEY = Buffer.alloc(32, 7);
const tickets = new Tickets(new LinkSeal(KEY));
const of = { token: 'N3o-_Qx7abcdefghijklmn', version: 'f00dfeed' };
const NOW = 1_790_000_000_000;

const codeOf = (work: () => unknown): string => {
  try {
    work();
    return 'opened';
  } catch (error) {
    return (error as { code: string }).code;
  }
};

it('opens what it made, for as long as it is good', () => {
  const ticket = tickets.make(of, TICKET_MS, NOW);
  expect(tickets.open(ticket, NOW)).toEqual(of);
  expect(tickets.open(ticket, NOW + TICKET_MS)).toEqual(of);
  expect(codeOf(() => tickets.open(ticket, NOW + TICKET_MS + 1))).toBe('ticket-over');
  const long = tickets.make(of, LONG_TICKET_MS, NOW);
  expect(tickets.open(long, NOW + 2 * 3_600_000)).toEqual(of);
});

it('tells nobody what it stands for, and is another each time', () => {
  const [one, other] = [tickets.make(of), tickets.make(of)];
  expect(one).toMatch(/^[0-9a-zA-Z_-]+$/);
  expect(one).not.toBe(other);
  expect(Buffer.from(one, 'base64url').toString('latin1')).not.toContain(of.token);
});

it('takes none that was altered, made up, or made with another key', () => {
  const ticket = tickets.make(of, TICKET_MS, NOW);
  for (let at = 0; at < ticket.length - 1; at += 7) {
    const letter = ticket[at] === 'A' ? 'B' : 'A';
    const altered = ticket.slice(0, at) + letter + ticket.slice(at + 1);
    expect(codeOf(() => tickets.open(altered, NOW))).toBe('not-found');
  }
  for (const madeUp of ['', 'x', of.token, ticket.slice(0, -4)])
    expect(codeOf(() => tickets.open(madeUp, NOW))).toBe('not-found');
  const others = new Tickets(new LinkSeal(Buffer.alloc(32, 8)));
  expect(codeOf(() => tickets.open(others.make(of, TICKET_MS, NOW), NOW))).toBe('not-found');
});
