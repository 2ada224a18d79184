import { heldTicket } from './ticket';

const ADDRESS = 'https://school.example/api/media/first/picture/5.m4s';
const clock = () => {
  const at = { ms: 1_000 };
  let given = 0;
  const give = jest.fn(async () => ({ ticket: `ticket-${++given}`, forMs: 300_000 }));
  return { at, give, held: heldTicket(give, () => at.ms) };
};

it('leaves the one of the playlist in its place while it is good, and has another given before it is over', async () => {
  const { at, give, held } = clock();
  held.came(300_000);
  expect(await held.addressOf(ADDRESS)).toBe(ADDRESS);
  at.ms += 200_000;
  expect(await held.addressOf(ADDRESS)).toBe(ADDRESS);
  expect(give).not.toHaveBeenCalled();
  at.ms += 20_000;
  const another = ADDRESS.replace('first', 'ticket-1');
  // Several pieces at once: one ticket.
  expect(await Promise.all([held.addressOf(ADDRESS), held.addressOf(ADDRESS)])).toEqual([
    another,
    another,
  ]);
  at.ms += 200_000;
  expect(await held.addressOf(ADDRESS)).toBe(another);
  at.ms += 20_000;
  expect(await held.addressOf(ADDRESS)).toBe(ADDRESS.replace('first', 'ticket-2'));
  expect(give).toHaveBeenCalledTimes(2);
});

it('has another given where the one it has was not taken', async () => {
  const { held } = clock();
  held.came(300_000);
  held.over();
  expect(await held.addressOf(ADDRESS)).toContain('ticket-1');
});

it('asks again where none could be given', async () => {
  const { give, held } = clock();
  give.mockRejectedValueOnce(new Error('no line'));
  await expect(held.addressOf(ADDRESS)).rejects.toThrow('no line');
  expect(await held.addressOf(ADDRESS)).toContain('ticket-');
});

it('leaves other addresses as they are', async () => {
  const { held, give } = clock();
  expect(await held.addressOf('https://school.example/api/watch/x/film.m3u8')).toBe(
    'https://school.example/api/watch/x/film.m3u8',
  );
  expect(give).not.toHaveBeenCalled();
});
