/** What came of a request; nothing where the server was gone before it had answered. */
export class Answer {
  constructor(
    readonly status: number,
    readonly bytes: Buffer,
  ) {}
  json(): unknown {
    return JSON.parse(this.bytes.toString());
  }
}

/** Somebody who works by requests with a server that comes and goes. */
export class Person {
  private constructor(
    private readonly origin: string,
    /** Path of the project. */
    readonly project: string,
    readonly cookie: string,
  ) {}

  /** @param name of one of the people of the demo */
  static async signIn(origin: string, name: string): Promise<Person> {
    const answer = await fetch(`${origin}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${name}@brinewell.example`, password: 'lanternfish' }),
    });
    const { projects } = (await answer.json()) as { projects: { id: string }[] };
    const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
    return new Person(origin, `/api/projects/${projects[0]!.id}`, cookie);
  }

  ask(method: string, path: string, body?: object): Promise<Answer | undefined> {
    const headers = body === undefined ? {} : { 'content-type': 'application/json' };
    return this.#send(method, path, headers, body === undefined ? null : JSON.stringify(body));
  }

  /** Sends one file, as a form does. */
  upload(path: string, name: string, bytes: Uint8Array): Promise<Answer | undefined> {
    const form = new FormData();
    form.append('file', new Blob([Buffer.from(bytes)]), name);
    return this.#send('POST', path, {}, form);
  }

  /** Asks until there is a good answer. @throws Error when there is no such thing */
  async learn(path: string): Promise<Answer> {
    for (;;) {
      const answer = await this.ask('GET', path);
      if (answer?.status === 200) return answer;
      if (answer?.status === 404) throw new Error(`${path} is not there`);
      await rest(100);
    }
  }

  async #send(
    method: string,
    path: string,
    headers: Readonly<Record<string, string>>,
    body: string | FormData | null,
  ): Promise<Answer | undefined> {
    try {
      const answer = await fetch(`${this.origin}${this.project}${path}`, {
        method,
        headers: { ...headers, cookie: this.cookie },
        body,
      });
      return new Answer(answer.status, Buffer.from(await answer.arrayBuffer()));
    } catch {
      return undefined;
    }
  }
}

export const rest = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));
