import { api, ApiError, OfflineError } from './api';

const answer = (body: string, init: ResponseInit) => jest.spyOn(globalThis, 'fetch').mockResolvedValueOnce(new Response(body, init));
const problem = { status: 409, headers: { 'content-type': 'application/problem+json' } };
const save = () => api.saveKit('kit', { base: 1, key: 'key-of-save', title: 'x', changes: [] });

afterEach(() => jest.restoreAllMocks());

test('what the server says went wrong is told with its sentence and what comes with it', async () => {
  answer(JSON.stringify({ code: 'stale', detail: 'Changed elsewhere.', revision: 7 }), problem);
  const error = await save().catch((one: unknown) => one);
  expect(error).toBeInstanceOf(ApiError);
  expect(error).toMatchObject({ status: 409, code: 'stale', message: 'Changed elsewhere.', body: { revision: 7 } });
});

test.each<[string, () => void]>([
  ['an answer that never comes', () => void jest.spyOn(globalThis, 'fetch').mockRejectedValueOnce(new TypeError('fetch failed'))],
  ['an answer cut off in the middle', () => void answer('{"revision": ', { status: 200 })],
  ['a refusal cut off in the middle', () => void answer('{"code": "sta', problem)],
])('%s says nothing of what was done: it is as if the server were away, and the save is told again', async (_, arrange) => {
  arrange();
  await expect(save()).rejects.toBeInstanceOf(OfflineError);
});

test('an error page that is none of ours is a refusal with its number', async () => {
  answer('<html>', { status: 404, headers: { 'content-type': 'text/html' } });
  await expect(save()).rejects.toMatchObject({ status: 404, message: expect.stringMatching(/answered 404/) });
});

test('no request waits for ever', async () => {
  const fetch = answer('{"revision": 2}', { status: 200 });
  await save();
  expect((fetch.mock.calls[0][1] as RequestInit).signal).toBeInstanceOf(AbortSignal);
});
