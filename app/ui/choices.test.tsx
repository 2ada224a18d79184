import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { Choices } from './choices';

const Sizes = ({ onChoose }: { onChoose?: (value: string) => void }) => {
  const [value, setValue] = useState('b');
  return (
    <Choices
      label="Size"
      choices={[
        { value: 'a', label: 'small' },
        { value: 'b', label: 'middling' },
        { value: 'c', label: 'large', disabled: true },
      ]}
      value={value}
      onChoose={(chosen) => {
        setValue(chosen);
        onChoose?.(chosen);
      }}
    />
  );
};

const checked = () =>
  screen.getAllByRole('radio').map((radio) => radio.getAttribute('aria-checked'));

it('is one group of radio buttons with one way in for the keyboard', () => {
  render(<Sizes />);
  expect(screen.getByRole('radiogroup').getAttribute('aria-label')).toBe('Size');
  expect(checked()).toEqual(['false', 'true', 'false']);
  const stops = screen.getAllByRole('radio').filter((radio) => radio.tabIndex === 0);
  expect(stops).toHaveLength(1);
});

it('moves with the arrow keys, around the end and over what can’t be chosen', () => {
  render(<Sizes />);
  const group = screen.getByRole('radiogroup');
  fireEvent.keyDown(group, { key: 'ArrowRight' });
  expect(checked()).toEqual(['true', 'false', 'false']);
  fireEvent.keyDown(group, { key: 'ArrowLeft' });
  expect(checked()).toEqual(['false', 'true', 'false']);
});

it('takes the focus along', () => {
  render(<Sizes />);
  const [small, middling] = screen.getAllByRole('radio');
  act(() => middling!.focus());
  fireEvent.keyDown(middling!, { key: 'ArrowRight' });
  expect(document.activeElement).toBe(small);
  expect([small!.tabIndex, middling!.tabIndex]).toEqual([0, -1]);
});

it('is chosen by a press', () => {
  const chosen: string[] = [];
  render(<Sizes onChoose={(value) => chosen.push(value)} />);
  fireEvent.click(screen.getByRole('radio', { name: 'small' }));
  expect(chosen).toEqual(['a']);
});
