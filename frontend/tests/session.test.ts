import { beforeEach, describe, expect, test, vi } from 'vitest';

/** A server that demands a sign-in, and answers 401 once it has ended. */
function server() {
  const state = { name: null as string | null, late: 0 };
  const answer = (status: number, body: unknown) =>
    new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  const fetched = vi.fn(async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (path === '/api/session' && request.method === 'POST') {
      const { name, password } = (await request.json()) as { name: string; password: string };
      if (password !== 'right') return answer(401, { says: 'They do not go together.' });
      state.name = name;
    } else if (path !== '/api/session' && (state.name === null || state.late-- > 0)) {
      return answer(401, { says: 'You are not signed in.' });
    }
    return answer(200, { demanded: true, name: state.name, role: state.name && 'educator' });
  });
  vi.stubGlobal('fetch', fetched);
  return state;
}

async function fresh() {
  vi.resetModules();
  const { session } = await import('../src/parts/session.svelte');
  const { api, ask } = await import('../src/api/client');
  await session.load();
  const params = { path: { id: 'a' } };
  return {
    session,
    call: () => ask(api.GET('/api/sitters')),
    change: () => ask(api.PUT('/api/plans/{id}/favourite', { params, body: { favourite: true } })),
  };
}

describe('a sign-in', () => {
  let state: ReturnType<typeof server>;
  beforeEach(() => {
    state = server();
  });

  test('is needed where the server demands one and nobody is', async () => {
    const { session } = await fresh();
    expect([session.needed, session.entered]).toEqual([true, false]);
    await expect(session.signIn('Mira', 'wrong')).rejects.toThrow('do not go together');
    expect(session.needed).toBe(true);
    await session.signIn('Mira', 'right');
    expect([session.needed, session.entered, session.role]).toEqual([false, true, 'educator']);
  });

  test('that has ended is asked for again, with what was open kept', async () => {
    const { session, call } = await fresh();
    await session.signIn('Mira', 'right');
    state.name = null;
    await expect(call()).rejects.toThrow('not signed in');
    expect([session.needed, session.entered]).toEqual([true, true]);
    await session.signIn('Mira', 'right');
    expect(session.needed).toBe(false);
  });

  test('is not asked for again by a request that left before the password was changed', async () => {
    const { session, call } = await fresh();
    await session.signIn('Mira', 'right');
    state.late = 1;
    // What was to be read is read again, so that the person sees nothing of it.
    await expect(call()).resolves.toBeTruthy();
    expect([session.needed, session.name]).toEqual([false, 'Mira']);
  });

  test('is not asked for again by a change that left before, which is refused with its reason', async () => {
    const { session, change } = await fresh();
    await session.signIn('Mira', 'right');
    state.late = 1;
    await expect(change()).rejects.toThrow('not signed in');
    expect([session.needed, session.name, state.late]).toEqual([false, 'Mira', 0]);
  });

  test('by somebody else begins anew', async () => {
    const { session, call } = await fresh();
    await session.signIn('Mira', 'right');
    state.name = null;
    await expect(call()).rejects.toThrow();
    const assign = vi.spyOn(window.location, 'assign').mockImplementation(() => {});
    await session.signIn('Ivo', 'right');
    expect(assign).toHaveBeenCalledWith('/');
    expect(session.name).toBe(null);
  });
});
