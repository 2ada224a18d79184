import { AskedPieces, PieceOrder, type PieceToMake } from './piece-order';

const pieces: PieceToMake[] = [
  ...[0, 80, 160, 240, 320].map((frame, index) => ({ of: 'picture' as const, index, frame })),
  ...[0, 240].map((frame, index) => ({ of: 'sound' as const, index, frame })),
];
const name = (piece: PieceToMake | undefined) => piece && `${piece.of} ${piece.index}`;

it('makes a film in its order, sound before the pictures over it', () => {
  const order = new PieceOrder(pieces, new AskedPieces());
  expect(Array.from({ length: 8 }, () => name(order.next()))).toEqual([
    ...['sound 0', 'picture 0', 'picture 1', 'picture 2'],
    ...['sound 1', 'picture 3', 'picture 4', undefined],
  ]);
});

it('makes what somebody waits for next, then what follows on it, then the rest', () => {
  const asked = new AskedPieces();
  const order = new PieceOrder(pieces, asked);
  order.next();
  asked.ask({ of: 'picture', index: 3 });
  asked.ask({ of: 'sound', index: 1 });
  // What is made already, or was never there, holds nobody up.
  asked.ask({ of: 'sound', index: 0 });
  asked.ask({ of: 'picture', index: 77 });
  expect(Array.from({ length: 6 }, () => name(order.next()))).toEqual([
    ...['sound 1', 'picture 3', 'picture 4'],
    ...['picture 0', 'picture 1', 'picture 2'],
  ]);
  expect([order.left, order.next()]).toEqual([0, undefined]);
});

it('returns requested pieces of one kind and keeps the others', () => {
  const asked = new AskedPieces();
  const order = new PieceOrder(pieces, asked);
  for (const index of [4, 3]) asked.ask({ of: 'picture', index });
  asked.ask({ of: 'sound', index: 1 });
  const given = ['sound', 'sound', 'picture', 'picture', 'picture'] as const;
  expect(given.map((of) => name(order.nextAsked(of)))).toEqual([
    ...['sound 1', undefined, 'picture 4', 'picture 3', undefined],
  ]);
});

it('tells whoever makes the film elsewhere what was asked for before and after', () => {
  const asked = new AskedPieces();
  const told: number[] = [];
  asked.ask({ of: 'picture', index: 1 });
  asked.passOnTo(({ index }) => told.push(index));
  asked.ask({ of: 'picture', index: 2 });
  expect([told, asked.takeAll()]).toEqual([[1, 2], []]);
});
