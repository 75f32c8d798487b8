import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Shot } from '../../resources/app/api/types';

const { ApiError, api } = await import('../../resources/app/api/client');
const { useUploads } = await import('../../resources/app/jobs/useUploads');

const MB = 1024 * 1024;
const file = (bytes: number): File => ({ name: 'a.mkv', size: bytes, slice: (from: number, to: number) => ({ from, to: Math.min(to, bytes) }) }) as unknown as File;
beforeEach(() => {
  vi.restoreAllMocks();
  vi.useFakeTimers();
});

describe('uploads', () => {
  it('go on where a broken line left them, and make a shot of the whole', async () => {
    vi.spyOn(api, 'beginUpload').mockResolvedValue({ id: 'u', received: 0, size: 0, told: null });
    const offsets: number[] = [];
    let breaks = 3;
    vi.spyOn(api, 'sendPiece').mockImplementation((_id, offset, piece) => {
      offsets.push(offset / MB);
      if (offset === 4 * MB && breaks-- > 0) return Promise.reject(new ApiError(0, 'away'));
      return Promise.resolve({ received: (piece as unknown as { to: number }).to });
    });
    const finish = vi.spyOn(api, 'finishUpload').mockResolvedValue({ id: 1 } as Shot);
    const arrived = vi.fn();
    const uploads = useUploads(1, arrived);
    const sent = uploads.send(file(10 * MB), { to: 7 });
    await vi.advanceTimersByTimeAsync(5000);
    await sent;
    expect(offsets).toEqual([0, 4, 4, 4, 4, 8]);
    expect(finish).toHaveBeenCalledWith('u', { to: 7 });
    expect([arrived.mock.calls.length, uploads.incoming.value]).toEqual([1, []]);
  });

  it('what the server had already is not sent again; what it refuses is told on its line', async () => {
    vi.spyOn(api, 'beginUpload').mockResolvedValueOnce({ id: 'u', received: 8 * MB, size: 0, told: null }).mockRejectedValueOnce(new ApiError(422, 'too large'));
    const send = vi.spyOn(api, 'sendPiece').mockResolvedValue({ received: 10 * MB });
    vi.spyOn(api, 'finishUpload').mockResolvedValue({ id: 1 } as Shot);
    const uploads = useUploads(1, vi.fn());
    await uploads.send(file(10 * MB), {});
    expect(send.mock.calls.map((c) => c[1])).toEqual([8 * MB]);
    await uploads.send(file(10 * MB), {});
    await uploads.send(file(0), {});
    expect(uploads.incoming.value.map((e) => e.error)).toEqual(['too large', 'The file is empty.']);
    const first = uploads.incoming.value[0];
    if (first) uploads.stop(first);
    expect(uploads.incoming.value.length).toBe(1);
  });
});
