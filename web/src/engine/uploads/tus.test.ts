import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Refusal } from '@/api/client';

const { POST, GET } = vi.hoisted(() => ({ POST: vi.fn(), GET: vi.fn() }));
vi.mock('@/api/client', async (original) => ({ ...(await original<object>()), api: { POST, GET } }));
vi.mock('tus-js-client', () => ({
  Upload: class {
    constructor(
      _: File,
      private readonly options: { onSuccess: () => void },
    ) {}
    start() {
      this.options.onSuccess();
    }
    abort() {}
  },
}));

const { sendByTus } = await import('./tus');
const ticket = { file: new File(['abc'], 'a.jpg'), name: 'a.jpg', id: 5, batch: 3, index: 7 };
const told = { sent: vi.fn(), held: vi.fn() };
const sent = () => sendByTus(ticket, told, false, new AbortController().signal);
const lost = new Refusal('The server does not answer.', 0);
const gone = new Refusal('There is no such thing.', 404);

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  vi.resetAllMocks();
});
afterEach(() => vi.useRealTimers());

describe('a file that has come whole', () => {
  it('is in when the server says so', async () => {
    POST.mockResolvedValueOnce({ data: { pages: [11], left_out: ['“x” is a link.'] } });
    expect(await sent()).toEqual({ pages: [11], leftOut: ['“x” is a link.'] });
  });

  it('whose answer was lost is found where it went', async () => {
    POST.mockRejectedValueOnce(lost).mockRejectedValueOnce(gone);
    GET.mockResolvedValueOnce({ data: { pages: [11, 12], left_out: [] } });
    const outcome = sent();
    await vi.advanceTimersByTimeAsync(600);
    expect(await outcome).toEqual({ pages: [11, 12], leftOut: [] });
    expect(told.held).toHaveBeenCalledWith('The server does not answer.');
    expect(GET.mock.calls[0]?.[1]).toEqual({ params: { path: { batch_id: 3, index: 7 } } });
  });

  it('that is gone at the first asking was dropped, and that is said', async () => {
    POST.mockRejectedValueOnce(gone);
    await expect(sent()).rejects.toBe(gone);
    expect(GET).not.toHaveBeenCalled();
  });

  it('waits and goes on while there is no room', async () => {
    POST.mockRejectedValueOnce(new Refusal('No room.', 507)).mockResolvedValueOnce({
      data: { pages: [1], left_out: [] },
    });
    const outcome = sent();
    await vi.advanceTimersByTimeAsync(600);
    expect(await outcome).toMatchObject({ pages: [1] });
  });
});
