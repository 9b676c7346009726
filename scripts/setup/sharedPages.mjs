// Pages that many ask for at once are made once: when a class opens the same page, its cost is that of one reader.

/** How long a page that nobody has changed is handed out as it is; milliseconds. Changes made here end that at once. */
const LASTS = 1_000;
/** Pages that are held at a time, and the longest that is worth holding, in bytes. */
const MOST_PAGES = 48;
const LONGEST = 2_097_152;

/** Addresses that are no pages: data, files, and what is asked for piecewise. */
const NO_PAGES = /^\/(?:api|_next)\/|\.[a-z0-9]+$/i;

/**
 * Puts a memory before whatever makes pages. It holds whole answers by address and cookies, so that nobody sees what was made
 * for somebody else; each copy gets the nonce of its own answer. Any request that may change something empties it.
 * @param handle makes an answer; a promise that settles when it has
 * @param now milliseconds of any clock
 */
export function sharedPages(handle, now = () => performance.now()) {
  const pages = new Map();
  return async (request, response) => {
    if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
      // Before and after: who asks meanwhile must not be remembered with what was there before.
      pages.clear();
      response.once('close', () => pages.clear());
      return handle(request, response);
    }
    const nonce = request.headers['x-nonce'];
    if (!isPage(request) || nonce === undefined) return handle(request, response);
    const key = `${request.url}\n${request.headers.cookie ?? ''}\n${request.headers.accept ?? ''}`;
    const known = pages.get(key);
    if (known && now() - known.begun < LASTS) {
      const page = await known.made;
      if (page) return give(page, response, nonce);
      return handle(request, response);
    }
    const entry = { begun: now(), made: kept(response, nonce) };
    pages.delete(key);
    pages.set(key, entry);
    if (pages.size > MOST_PAGES) pages.delete(pages.keys().next().value);
    void entry.made.then((page) => {
      if (!page && pages.get(key) === entry) pages.delete(key);
    });
    return handle(request, response);
  };
}

function isPage({ method, url = '/', headers }) {
  // The program asks for parts of pages with a header of its own; only whole ones are held.
  return method === 'GET' && headers.rsc === undefined && !NO_PAGES.test(url.split('?', 1)[0]);
}

/** What goes through a response, once it has ended well; nothing of one that failed, is too long or was broken off. */
function kept(response, nonce) {
  const chunks = [];
  let size = 0;
  const keep = (chunk, encoding) => {
    if (typeof chunk !== 'string' && !(chunk instanceof Uint8Array)) return;
    const bytes =
      typeof chunk === 'string' ? Buffer.from(chunk, typeof encoding === 'string' ? encoding : 'utf8') : chunk;
    size += bytes.length;
    if (size <= LONGEST) chunks.push(Buffer.from(bytes));
  };
  const { write, end } = response;
  response.write = (chunk, encoding, done) => {
    keep(chunk, encoding);
    return write.call(response, chunk, encoding, done);
  };
  response.end = (chunk, encoding, done) => {
    keep(chunk, encoding);
    return end.call(response, chunk, encoding, done);
  };
  return new Promise((resolve) => {
    response.once('close', () => {
      const type = String(response.getHeader('content-type') ?? '');
      const isWhole = response.writableFinished && response.statusCode === 200 && size <= LONGEST;
      if (!isWhole || !type.startsWith('text/html') || response.hasHeader('set-cookie')) return resolve(undefined);
      resolve({
        type,
        nonce,
        control: response.getHeader('cache-control'),
        text: Buffer.concat(chunks).toString('utf8'),
      });
    });
  });
}

function give({ type, nonce, control, text }, response, own) {
  response.setHeader('content-type', type);
  if (control !== undefined) response.setHeader('cache-control', control);
  response.end(text.replaceAll(nonce, own));
}
