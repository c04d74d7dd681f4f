/**
 * A running server, as a command asks it: `UKIYO_URL` (http://127.0.0.1:4600), and `UKIYO_TOKEN` or
 * `UKIYO_EMAIL` and `UKIYO_PASSWORD`.
 */
const {
  UKIYO_URL: url = 'http://127.0.0.1:4600',
  UKIYO_TOKEN: token,
  UKIYO_EMAIL: email,
  UKIYO_PASSWORD: password,
} = process.env;

export const isAccountSet = Boolean(token || (email && password));

async function answerTo(path, options) {
  const answer = await fetch(`${url}/api${path}`, options);
  if (answer.ok) return answer;
  const { message } = await answer.json();
  throw new Error(message);
}

/** Signs in, where there is no token; gives the project, and what asks below it as that person. */
export async function signIn() {
  const known = token ? { authorization: `Bearer ${token}` } : undefined;
  const session = await answerTo(
    '/session',
    known
      ? { headers: known }
      : {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ email, password }),
        },
  );
  const own = known ?? { cookie: session.headers.get('set-cookie').split(';')[0] };
  const [project] = (await session.json()).projects;
  return {
    project,
    ask: (path, options = {}) =>
      answerTo(`/projects/${project.id}${path}`, {
        ...options,
        headers: { ...own, ...options.headers },
      }),
  };
}
