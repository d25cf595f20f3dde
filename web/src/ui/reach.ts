/** What `fetch` gives, with a sentence where the server is away: browsers say it in words of their own, and none for people. */
export async function reach(path: string, init?: RequestInit): Promise<Response> {
  try {
    return await fetch(path, init);
  } catch (error) {
    if (init?.signal?.aborted) throw error;
    throw new Error('The server cannot be reached.', { cause: error });
  }
}
