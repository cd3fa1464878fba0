import { createHmac, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { facts } from '../db/schema';
import { Refusal, StartError } from '../refusal';

const COOKIE = 'tin-ghost';
const SESSION_MS = 14 * 86_400_000;
/** A shorter one can be tried out. */
export const LEAST_PASSWORD = 10;
/** scrypt as RFC 7914 has it: 16 MB and a tenth of a second for every try. */
const COST = { N: 16_384, r: 8, p: 1 };

const stretched = (password: string, salt: string): Promise<Buffer> =>
  new Promise((resolve, reject) => scrypt(password.normalize('NFKC'), salt, 64, COST, (error, key) => (error ? reject(error) : resolve(key))));

/**
 * Who has given the password. A session is a cookie with its end and a code over that, by a key that is made of the password and a secret of the database:
 * it holds for every server on that database and through restarts, and no longer where the password is another.
 */
export class Sessions {
  private constructor(
    private readonly secret: string,
    private readonly key: Buffer,
  ) {}

  /** @throws StartError where the password is too short */
  static async open(db: Database, password: string): Promise<Sessions> {
    if ([...password].length < LEAST_PASSWORD) throw new StartError(`TIN_GHOST_PASSWORD has ${[...password].length} characters; ${LEAST_PASSWORD} are the least.`);
    await db
      .insert(facts)
      .values({ key: 'session-secret', value: randomBytes(32).toString('hex') })
      .onConflictDoNothing();
    const [secret] = await db.select().from(facts).where(eq(facts.key, 'session-secret'));
    return new Sessions(secret!.value, await stretched(password, secret!.value));
  }

  /** Whether this is the password; takes as long either way. */
  async isPassword(tried: string): Promise<boolean> {
    return timingSafeEqual(await stretched(tried, this.secret), this.key);
  }

  begin(request: Request, response: Response): void {
    const until = String(Date.now() + SESSION_MS);
    response.cookie(COOKIE, `${until}.${this.code(until)}`, { ...this.attributes(request), maxAge: SESSION_MS });
  }

  end(request: Request, response: Response): void {
    response.clearCookie(COOKIE, this.attributes(request));
  }

  isOpen({ headers }: Pick<Request, 'headers'>): boolean {
    const [, until, code] = new RegExp(`(?:^|;\\s*)${COOKIE}=(\\d{1,15})\\.([0-9a-f]{64})(?:;|$)`).exec(headers.cookie ?? '') ?? [];
    return until !== undefined && Number(until) > Date.now() && timingSafeEqual(Buffer.from(code!), Buffer.from(this.code(until)));
  }

  private code(until: string): string {
    return createHmac('sha256', this.key).update(until).digest('hex');
  }

  // Strict: no page elsewhere can have it sent.
  private attributes({ secure, headers }: Request) {
    return { httpOnly: true, sameSite: 'strict', path: '/', secure: secure || headers.origin?.startsWith('https:') } as const;
  }
}

/** What can be asked without a password: how to give it, and whether the server lives. */
const OPEN = new Set(['/session', '/health', '/ready']);

/** Lets nobody in who has not given the password. */
export const withPassword =
  (sessions: Sessions): RequestHandler =>
  (request, _response, next) => {
    if (!OPEN.has(request.path) && !sessions.isOpen(request)) throw new Refusal('password-needed', 'the password is needed');
    next();
  };
