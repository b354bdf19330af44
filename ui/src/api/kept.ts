/** How much a page may have under way that goes on without it: the Fetch standard allows 64 KiB of bodies (from memory), and refuses what
 *  is beyond; half of it leaves room for answers that are being read. */
export const mostKept = 32_000

let kept = 0

/** Fetches so that a change goes on when whoever made it leaves the page at once; a question needn't. */
export async function fetchToTheEnd(request: Request): Promise<Response> {
  if (request.method === 'GET') return fetch(request)
  const { byteLength } = await request.clone().arrayBuffer()
  if (kept + byteLength > mostKept) return fetch(request)
  kept += byteLength
  try {
    return await fetch(new Request(request, { keepalive: true }))
  } finally {
    kept -= byteLength
  }
}
