// Pages and parts that many ask for at once are made once: when a class opens the same, its cost is that of one reader.

/** How long a page is handed out as it is, where nothing was written since; milliseconds. */
const LASTS = 1_000;
/** Pages that are held at a time, and the longest that is worth holding, in bytes. */
const MAX_PAGES = 48;
const LONGEST = 2_097_152;

/** Files of a tune: parts as they are printed, pictures of openings. */
const FILES = /^\/api\/tunes\/[\w-]+\/files\/[\w.-]+$/;
/** Addresses that are no pages: data, other files, and what is asked for piecewise. */
const NO_PAGES = /^\/(?:api|_next|p)\/|\.[a-z0-9]+$/i;

/**
 * Puts a memory before whatever makes pages. It holds whole answers by address and cookies, so that nobody sees what
 * was made for somebody else; each copy gets the nonce of its own answer. Whether anything was written since, here or by
 * another process, is asked of the database each time; where it does not say, nothing is handed out of memory.
 * @param handle makes an answer; a promise that settles when it has
 * @param mark a number that is another one whenever something was written
 * @param now milliseconds of any clock
 */
export function sharedPages(handle, mark, now = () => performance.now()) {
  const pages = new Map();
  return async (request, response) => {
    const nonce = request.headers['x-nonce'];
    const isFile = isWholeFile(request);
    if ((!isFile && !isPage(request)) || nonce === undefined) return handle(request, response);
    // Before it is made: what is written meanwhile makes it one of before.
    const as = await mark().catch(() => undefined);
    if (as === undefined) return handle(request, response);
    const key = `${request.url}\n${request.headers.cookie ?? ''}\n${request.headers.accept ?? ''}`;
    const known = pages.get(key);
    if (known && known.as === as && now() - known.begun < LASTS) {
      const page = await known.made;
      if (page) return give(page, response, nonce);
      return handle(request, response);
    }
    const entry = { begun: now(), as, made: kept(response, nonce, isFile) };
    pages.delete(key);
    pages.set(key, entry);
    if (pages.size > MAX_PAGES) pages.delete(pages.keys().next().value);
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

/** A reader who has the file already, or wants a stretch of it, is answered for themselves. */
function isWholeFile({ method, url = '/', headers }) {
  const isWhole = headers['if-none-match'] === undefined && headers.range === undefined;
  return method === 'GET' && isWhole && FILES.test(url.split('?', 1)[0]);
}

/** What goes through a response, once it has ended well; nothing of one that failed, is too long or was broken off. */
function kept(response, nonce, isFile) {
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
      const isHtml = String(response.getHeader('content-type') ?? '').startsWith('text/html');
      const isWhole = response.writableFinished && response.statusCode === 200 && size <= LONGEST;
      if (!isWhole || isHtml === isFile || response.hasHeader('set-cookie')) return resolve(undefined);
      const bytes = Buffer.concat(chunks);
      const headers = CARRIED.flatMap((name) => {
        const value = response.getHeader(name);
        return value === undefined ? [] : [[name, value]];
      });
      resolve({ headers, nonce, body: isFile ? bytes : bytes.toString('utf8') });
    });
  });
}

/** Headers of an answer that its copies have too; the others are put on by the door. */
const CARRIED = ['content-type', 'content-disposition', 'cache-control', 'etag'];

function give({ headers, nonce, body }, response, own) {
  for (const [name, value] of headers) response.setHeader(name, value);
  response.end(typeof body === 'string' ? body.replaceAll(nonce, own) : body);
}
