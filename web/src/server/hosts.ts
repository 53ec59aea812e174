/** Whether the server answers to the name in a Host header: loopback, and what ITCHKIT_HOSTS adds. */
export function hostAllowed(host: string): boolean {
  const name = host.replace(/:\d+$/, '').toLowerCase();
  const more = (process.env.ITCHKIT_HOSTS ?? '').split(',').filter(Boolean);
  return ['127.0.0.1', 'localhost', '[::1]', ...more].includes(name);
}

/** The sentence for a name that it does not answer to. */
export const wordsOfForeignHost = (host: string): string =>
  `This server does not answer to the name “${host}”. Use the address that it printed when it started.`;
