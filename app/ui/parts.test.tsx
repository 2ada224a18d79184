import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { formatTenths, parseClock } from '@under-chalk/core/time/us';
import { Button } from './button';
import { Menu } from './menu';
import { Stepper } from './stepper';

const Time = ({ onChange = () => undefined }: { onChange?: (us: number) => void }) => {
  const [us, setUs] = useState(62_500_000);
  return (
    <Stepper
      label="Cut from"
      value={us}
      least={60_000_000}
      most={70_000_000}
      step={100_000}
      onChange={(next) => {
        setUs(next);
        onChange(next);
      }}
      format={formatTenths}
      parse={parseClock}
      unit="min:s"
      stepWords={['a tenth earlier', 'a tenth later']}
    />
  );
};
const spin = () => screen.getByRole('spinbutton') as HTMLInputElement;

it('a number is moved by keys within its limits, and said with its unit', () => {
  render(<Time />);
  expect(spin().getAttribute('aria-valuetext')).toBe('1:02.5 min:s');
  fireEvent.keyDown(spin(), { key: 'ArrowUp' });
  expect(spin().value).toBe('1:02.6');
  fireEvent.keyDown(spin(), { key: 'PageDown' });
  expect(spin().value).toBe('1:01.6');
  for (let times = 0; times < 3; times++) fireEvent.keyDown(spin(), { key: 'PageDown' });
  expect(spin().value).toBe('1:00.0');
});

it('a number that is typed is taken; what is none is put back', () => {
  const taken: number[] = [];
  render(<Time onChange={(us) => taken.push(us)} />);
  fireEvent.change(spin(), { target: { value: '1:05,2' } });
  fireEvent.blur(spin());
  fireEvent.change(spin(), { target: { value: 'soon' } });
  fireEvent.blur(spin());
  expect([taken, spin().value]).toEqual([[65_200_000], '1:05.2']);
});

it('a menu opens on its first line, is walked round by arrows, and gives the focus back', () => {
  const done: string[] = [];
  const items = ['Copy', 'Throw away'].map((label) => ({ label, onPress: () => done.push(label) }));
  render(<Menu of="Tides" items={items} />);
  const opener = screen.getByRole('button', { name: 'More to do with Tides' });
  fireEvent.click(opener);
  const [first, second] = screen.getAllByRole('menuitem');
  expect(document.activeElement).toBe(first);
  fireEvent.keyDown(first!, { key: 'ArrowUp' });
  expect(document.activeElement).toBe(second);
  fireEvent.keyDown(second!, { key: 'Escape' });
  expect([screen.queryByRole('menu'), document.activeElement]).toEqual([null, opener]);
  fireEvent.click(opener);
  fireEvent.click(screen.getByRole('menuitem', { name: 'Throw away' }));
  expect([done, document.activeElement]).toEqual([['Throw away'], opener]);
});

it('a button that is disabled says so, does nothing, and keeps the focus', () => {
  let pressed = 0;
  const shown = (disabled: boolean) => (
    <Button label="Undo" disabled={disabled} onPress={() => pressed++} />
  );
  const { rerender } = render(shown(false));
  const button = screen.getByRole('button', { name: 'Undo' });
  act(() => button.focus());
  fireEvent.click(button);
  rerender(shown(true));
  fireEvent.click(button);
  expect(button.getAttribute('aria-disabled')).toBe('true');
  expect([pressed, document.activeElement]).toEqual([1, button]);
  rerender(shown(false));
  fireEvent.click(button);
  expect([pressed, button.getAttribute('aria-disabled')]).toEqual([2, null]);
});
