// @vitest-environment jsdom
import { QueryClient } from '@tanstack/react-query';
import { renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useTouched } from '../state/touched';
import { listen, useShown } from './live';

const hub = vi.hoisted(() => {
  const heard = new Map<string, (...given: unknown[]) => void>();
  return {
    heard,
    state: 'Connected',
    on: (name: string, act: (...given: unknown[]) => void) => void heard.set(name, act),
    onreconnected: (act: () => void) => void heard.set('reconnected', act),
    start: () => Promise.resolve(),
    stop: () => Promise.resolve(),
    invoke: vi.fn(() => Promise.resolve()),
  };
});
vi.mock('@microsoft/signalr', async (original) => {
  const builder = {
    withUrl: () => builder,
    withAutomaticReconnect: () => builder,
    configureLogging: () => builder,
    build: () => hub,
  };
  return {
    ...(await original<object>()),
    HubConnectionBuilder: class {
      withUrl = () => builder;
    },
  };
});

const queries = [
  ['scenes'],
  ['roots'],
  ['muster', 'a'],
  ['audit', 'a'],
  ['send-off', 'a'],
  ['muster', 'b'],
  ['audit', 'b'],
  ['send-off', 'b'],
];
const tell = (name: string, ...given: unknown[]) => hub.heard.get(name)?.(...given);

describe('a window that listens', () => {
  let client: QueryClient;
  const old = () => queries.filter((key) => client.getQueryState(key)?.isInvalidated).map((key) => key.join(' '));

  beforeEach(() => {
    hub.invoke.mockClear();
    client = new QueryClient();
    for (const key of queries) client.setQueryData(key, {});
    return listen(client);
  });

  it('asks again for the scene that was decided about, and for the list', () => {
    tell('scene', 'a', 'ledger');
    expect(old()).toEqual(['scenes', 'muster a', 'audit a', 'send-off a']);
  });

  it('asks for the list alone when that counts a scene otherwise', () => {
    tell('scene', 'a', 'counted');
    expect(old()).toEqual(['scenes']);
  });

  it('asks for pictures again when files of a scene were written, and leaves its audit', () => {
    const before = useTouched.getState();
    tell('scene', 'b', 'files');
    expect(old()).toEqual(['muster b', 'send-off b']);
    expect(useTouched.getState()).not.toEqual(before);
  });

  it('asks for what a task has made, of its scene, once the task is done', () => {
    const pack = { id: '1', kind: 'pack', sceneId: 'b', state: 'running' };
    tell('work', pack);
    expect(old()).toEqual([]);
    tell('work', { ...pack, state: 'done' });
    expect(old()).toEqual(['send-off b']);
    tell('work', { id: '2', kind: 'arrive', sceneId: null, state: 'done' });
    expect(old()).toEqual(['scenes', 'send-off b']);
    expect(client.getQueryData<{ id: string; state: string }[]>(['work'])?.map((w) => `${w.id} ${w.state}`)).toEqual([
      '2 done',
      '1 done',
    ]);
  });

  it('tells the server what it shows, again after it was away', () => {
    const shown = renderHook(({ id }: { id?: string }) => useShown(id, id === undefined), { initialProps: {} });
    shown.rerender({ id: 'a' });
    expect(hub.invoke.mock.calls.slice(-2)).toEqual([
      ['Look', null, true],
      ['Look', 'a', false],
    ]);
    tell('reconnected');
    expect(hub.invoke).toHaveBeenLastCalledWith('Look', 'a', false);
    expect(old()).toHaveLength(queries.length);
  });
});
