import type { Entry, Roll } from '@scriptum/core/roll';
import { RollThere } from './roll-chunks';

const roll = (count: number): Roll => ({
  columns: [],
  entries: Array.from({ length: count }, (_, position) => ({ id: `e${position}`, position, values: {} })),
});

/** Answers as a thread does: later, each in its turn. */
class Desk {
  private entries: Entry[] = [];
  takings = 0;
  takeRoll = async (): Promise<void> => {
    await Promise.resolve();
    this.takings++;
    this.entries = [];
  };
  takeEntries = async (entries: Entry[]): Promise<void> => {
    await Promise.resolve();
    this.entries.push(...entries);
  };
  count = async (): Promise<number> => {
    await Promise.resolve();
    return this.entries.length;
  };
}

test('work that is asked for at once finds its own roll, whole and once', async () => {
  const desk = new Desk();
  const there = new RollThere(desk);
  const small = roll(30);
  const large = roll(1000);
  const counts = [small, small, large, small].map((one) => there.with(one, (here) => here.count()));
  expect(await Promise.all(counts)).toEqual([30, 30, 1000, 30]);
  expect(desk.takings).toBe(3);
});

test('work that fails holds nothing up', async () => {
  const there = new RollThere(new Desk());
  const failing = there.with(roll(1), () => Promise.reject(new Error('no')));
  await expect(failing).rejects.toThrow('no');
  expect(await there.with(roll(2), (here) => here.count())).toBe(2);
});
