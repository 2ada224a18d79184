import { listed } from './listed';

it.each([
  [[], ''],
  [['Jun'], 'Jun'],
  [['Jun', 'May'], 'Jun and May'],
  [['Jun', 'May', 'Noör'], 'Jun, May and Noör'],
])('says what there is: %j', (all, said) => {
  expect(listed(all)).toBe(said);
});
