import { expect, it, vi } from 'vitest';
import { NewStack } from './newStack';

it('a stack is begun once, though two things are dropped into it at the same time', async () => {
  const create = vi.fn(async (name: string) => ({ id: 7, name }));
  const stack = new NewStack(create);
  const [first, second] = await Promise.all([stack.ensure('Box 27'), stack.ensure('Box 28')]);
  expect(first).toBe(second);
  expect(await stack.ensure('Box 29')).toBe(first);
  expect(create).toHaveBeenCalledExactlyOnceWith('Box 27');
});

it('a stack that could not be begun is tried again', async () => {
  const create = vi
    .fn<(name: string) => Promise<number>>()
    .mockRejectedValueOnce(new Error('busy'))
    .mockResolvedValueOnce(7);
  const stack = new NewStack(create);
  await expect(stack.ensure('Box 27')).rejects.toThrow('busy');
  expect(await stack.ensure('Box 27')).toBe(7);
});
