import { describe, expect, it } from 'vitest';
import { nextWords } from './slips';

describe('the names that come next', () => {
  it('are the next stacks, with the zone of their dates', () => {
    expect(nextWords(['Letters 1', 'Letters 2'], 'UTC')).toBe('The next stacks. Dates and times are those of UTC.');
  });

  it('are said to be all the same where nothing tells them apart', () => {
    expect(nextWords(['Letters'], 'UTC')).toContain('All of them have the same: {counter} or {time}');
  });

  it('are not, where what is asked for tells them apart', () => {
    const words = nextWords(['‹the title›'], 'UTC');
    expect(words).toContain('‹marks› is asked before the first sheet');
    expect(words).not.toContain('the same');
  });
});
