import type { Class } from './class';
import { followed, hasOtherNames } from './renamed';

const unit = (id: string, name: string) => ({ id: `unit-${id}`, name });
const before: Class = {
  ...{ id: 'class-coastal', name: 'Coastal' },
  units: [unit('one', 'Week 1'), unit('two', 'Week 2')],
};

it('stays with its class and unit when they have other names', () => {
  const after = {
    ...before,
    name: 'Coastal 2027',
    units: [unit('one', 'Tides'), before.units[1]!],
  };
  const of = (unitName: string) =>
    followed({ className: 'Coastal', unit: unitName }, before, after);
  expect(of('Week 1')).toEqual({ className: 'Coastal 2027', unit: 'Tides' });
  expect(of('Week 2')).toEqual({ className: 'Coastal 2027', unit: 'Week 2' });
  expect(of('')).toEqual({ className: 'Coastal 2027', unit: '' });
  expect(followed({ className: 'Knots', unit: 'Week 1' }, before, after)).toBeNull();
});

it('takes each of two units that have changed names with it', () => {
  const units = [unit('one', 'Week 2'), unit('two', 'Week 1')];
  const of = (unitName: string) =>
    followed({ className: 'Coastal', unit: unitName }, before, { ...before, units })?.unit;
  expect([of('Week 1'), of('Week 2')]).toEqual(['Week 2', 'Week 1']);
});

it('says what it said where nothing has another name, or its unit is taken out', () => {
  const reordered = { ...before, units: [...before.units].reverse() };
  expect(followed({ className: 'Coastal', unit: 'Week 1' }, before, reordered)).toBeNull();
  const without = { ...before, units: [before.units[1]!] };
  expect(followed({ className: 'Coastal', unit: 'Week 1' }, before, without)).toBeNull();
  const added = { ...before, units: [...before.units, unit('three', 'Week 3')] };
  expect([reordered, without, added].map((one) => hasOtherNames(before, one))).toEqual([
    ...[false, false, false],
  ]);
  const named = { ...before, units: [unit('one', 'Tides'), before.units[1]!] };
  expect([named, { ...before, name: 'C' }].map((one) => hasOtherNames(before, one))).toEqual([
    ...[true, true],
  ]);
});
