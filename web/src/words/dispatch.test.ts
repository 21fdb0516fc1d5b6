import { describe, expect, test } from 'vitest';
import type { Delivery } from '@/api/types';
import { remark, standing, whereWords } from './dispatch';

const one = (more: Partial<Delivery>): Delivery =>
  ({
    state: 'waiting',
    held: false,
    said: '',
    missing: '',
    check_said: '',
    next_try_at: null,
    proof: '',
    ...more,
  }) as Delivery;

describe('how a delivery stands', () => {
  test.each([
    [{}, 'going', 'waits its turn'],
    [{ state: 'sending' }, 'going', 'is being sent'],
    [{ state: 'proving' }, 'going', 'is read back'],
    [{ held: true }, 'held', 'held'],
    [{ state: 'stuck' }, 'asks', 'waits for you'],
    [{ state: 'cancelled' }, 'over', 'given up'],
    [{ state: 'arrived', proof: 'read' }, 'arrived', 'arrived, read back'],
    [{ state: 'arrived', proof: 'answer' }, 'arrived', 'taken by the server'],
    [{ state: 'arrived', proof: 'read', missing: 'It is not there any more.' }, 'asks', 'lost'],
  ] as const)('%o', (more, stands, words) => {
    expect(standing(one(more as Partial<Delivery>))).toEqual({ stands, words });
  });

  test('when it is tried again', () => {
    const { stands, words } = standing(one({ next_try_at: '2026-03-07T09:05:01Z' }));
    expect(stands).toBe('going');
    expect(words).toMatch(/^again at \d\d:05:01$/);
  });

  test('what is lost comes before what could not be looked at', () => {
    expect(remark(one({ said: 'no answer' }))).toBe('no answer');
    expect(remark(one({ state: 'arrived', said: '', check_said: 'no answer' }))).toBe('no answer');
    expect(remark(one({ state: 'arrived', missing: 'gone', check_said: 'no answer' }))).toBe('gone');
  });
});

test('where a place is', () => {
  expect(whereWords({ kind: 'folder', path: '/srv/out' })).toBe('/srv/out');
  expect(whereWords({ kind: 'sftp', host: 'h', user: 'u', port: 22, folder: '', host_key: '' })).toBe(
    'u@h, its first folder',
  );
  const mail = { kind: 'mail', host: 'h', sender: 'a@b.example.org' } as const;
  expect(whereWords({ ...mail, recipients: ['c@d.example.org', 'e@f.example.org'] } as never)).toBe(
    'to c@d.example.org, e@f.example.org',
  );
  expect(whereWords({ ...mail, recipients: [] } as never)).toBe('from a@b.example.org');
});
