import { describe, expect, it } from 'vitest';
import { Refusal, titleOf, unwrap } from './client';

const answer = (status: number, body: { data?: unknown; error?: unknown }) =>
  Promise.resolve({ ...body, response: new Response(null, { status }) });

describe('an answer of the server', () => {
  it('gives its data', async () => {
    expect(await unwrap(answer(200, { data: [1, 2] }))).toEqual([1, 2]);
    expect(await unwrap(answer(204, {}))).toBeUndefined();
  });

  it('is a refusal in the server’s own words', async () => {
    const refused = unwrap(answer(422, { error: { title: 'There is no such scene.', status: 422 } }));
    await expect(refused).rejects.toThrow(new Refusal('There is no such scene.'));
    await expect(unwrap(answer(502, {}))).rejects.toThrow('status 502');
  });

  it('says so when there is none', async () => {
    const silent: ReturnType<typeof answer> = Promise.reject(new TypeError('Failed to fetch'));
    await expect(unwrap(silent)).rejects.toThrow('The server does not answer. Nothing was changed');
  });

  it('has a title only where a problem document gives one', () => {
    expect([titleOf({ title: 'x' }), titleOf({ detail: 'x' }), titleOf('x'), titleOf(null)]).toEqual([
      'x',
      undefined,
      undefined,
      undefined,
    ]);
  });
});
