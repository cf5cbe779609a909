import { beforeEach, expect, test } from 'vitest';
import { Turns, type Turn } from './turns.ts';

let said: (string | null)[] = [];
let failed: string[] = [];
let turns: Turns;

beforeEach(() => {
  [said, failed] = [[], []];
  turns = new Turns(
    (words) => said.push(words),
    (why) => failed.push(why),
  );
});

/** Something that ends when it is told to. */
function begun(words: string): {
  turn: Turn;
  ended: Promise<void>;
  end: () => void;
  fail: (why: string) => void;
} {
  let turn: Turn;
  let [end, fail] = [() => {}, (_why: string) => {}];
  const ended = turns.begin(words, (mine) => {
    turn = mine;
    return new Promise((done, refuse) => {
      [end, fail] = [done, (why) => refuse(new Error(why))];
    });
  });
  return { turn: turn!, ended, end, fail };
}

test('tells what is done, and when nothing is', async () => {
  const { turn, ended, end } = begun('Unfolding it');
  turn.say('Making room for tabs');
  expect(turn.isWanted()).toBe(true);
  end();
  await ended;
  expect(said).toEqual(['Unfolding it', 'Making room for tabs', null]);
});

test('a last word that comes after the answer is not heard: nothing is busy for ever', async () => {
  const { turn, ended, end } = begun('Unfolding it');
  end();
  await ended;
  turn.say('Looking for places for tabs');
  expect(said.at(-1)).toBeNull();
  expect(turn.isWanted()).toBe(false);
});

test('what was begun before says nothing any more, fails unheard, and does not end what is done now', async () => {
  const [first, other] = [begun('Reading it'), begun('Unfolding it')];
  first.turn.say('Still reading');
  first.fail('It cannot be read.');
  await first.ended;
  expect([first.turn.isWanted(), other.turn.isWanted()]).toEqual([false, true]);
  expect(said).toEqual(['Reading it', 'Unfolding it']);
  other.fail('Stopped.');
  await other.ended;
  expect(failed).toEqual(['Stopped.']);
  expect(said.at(-1)).toBeNull();
});

test('what is let go is not busy, and comes to nothing', async () => {
  const { turn, ended, end } = begun('Unfolding it');
  turns.letGo();
  expect(turn.isWanted()).toBe(false);
  end();
  await ended;
  expect(said).toEqual(['Unfolding it', null]);
});
