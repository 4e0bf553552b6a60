/** One request as it reached the server. */
export interface Call {
  route: string;
  query: Record<string, string>;
  body: unknown;
}

/** What a route answers: data, or a function of the request that gives them. */
type Route = unknown;

let routes: Record<string, Route> = {};
let calls: Call[] = [];

export class Problem {
  constructor(
    readonly status: number,
    readonly title: string,
  ) {}
}

/** Puts a server in place: by `METHOD /path`. Gives the requests that reach it, in their order. */
export function serve(by: Record<string, Route>): Call[] {
  routes = by;
  calls = [];
  return calls;
}

/** The requests that change something. */
export const changes = (all: readonly Call[]) => all.filter((c) => !c.route.startsWith('GET '));

export async function answer(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const request = new Request(input, init);
  const url = new URL(request.url);
  const route = `${request.method} ${decodeURIComponent(url.pathname)}`;
  const text = await request.text();
  const body: unknown = text === '' ? undefined : JSON.parse(text);
  const call = { route, query: Object.fromEntries(url.searchParams), body };
  calls.push(call);
  if (!(route in routes)) return json(404, { title: `There is no ${route} here.` });
  const found = routes[route];
  const data: unknown = typeof found === 'function' ? (found as (call: Call) => unknown)(call) : found;
  return data instanceof Problem ? json(data.status, { title: data.title }) : json(200, data ?? null);
}

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
