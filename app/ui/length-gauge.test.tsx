import { render, screen } from '@testing-library/react';
import { destinationOf, FIRST_DESTINATIONS } from '@under-chalk/core/destination/destination';
import { LengthGauge } from './length-gauge';

const said = (seconds: number, place: string) => {
  const { unmount } = render(
    <LengthGauge
      usedUs={seconds * 1e6}
      destination={destinationOf(FIRST_DESTINATIONS, place)}
      attentionUs={300e6}
    />,
  );
  const label = screen.getByRole('img').getAttribute('aria-label');
  unmount();
  return label;
};

it('says how it stands with the limit in words', () => {
  expect(said(0, 'three-minute-note')).toBe('Length 0 s: nothing yet · 3 min to fill');
  expect(said(2, 'three-minute-note')).toContain('3 s short of what “Three-minute note” takes');
  expect(said(4.6, 'three-minute-note')).toContain('1 s short');
  expect(said(150, 'three-minute-note')).toContain('fits · 30 s left');
  expect(said(200, 'three-minute-note')).toContain('20 s too long');
  expect(said(400, 'anywhere')).toContain('past where attention usually ends');
});
