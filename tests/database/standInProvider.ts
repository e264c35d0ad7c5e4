import { randomUUID } from "node:crypto";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { exportJWK, generateKeyPair, SignJWT } from "jose";

/** Who signs in at the stand-in, and what it says of them. */
export interface Claims {
  sub: string;
  email?: string;
  email_verified?: boolean;
  name?: string;
  auth_time?: number;
}

/** A small provider of sign-ins for tests: says who it is told to say, by the rules of OpenID Connect. */
export class StandInProvider {
  readonly clientId = "cobble";
  readonly clientSecret = "shared secret";
  issuer = "";
  /** Changes an ID token's claims before they are signed, as a provider gone wrong would. */
  bend: (claims: Record<string, unknown>) => Record<string, unknown> = (c) => c;
  /** Signs with a key nobody knows. */
  forge = false;
  private server: Server | null = null;
  private readonly codes = new Map<
    string,
    { claims: Claims; nonce: string; challenge: string; redirect: string }
  >();

  async open(): Promise<void> {
    const [own, other] = await Promise.all([
      generateKeyPair("RS256", { extractable: true }),
      generateKeyPair("RS256", { extractable: true }),
    ]);
    const jwk = { ...(await exportJWK(own.publicKey)), kid: "one", alg: "RS256", use: "sig" };
    const tokenFor = async (code: string, form: URLSearchParams) => {
      const c = this.codes.get(code);
      this.codes.delete(code);
      const verifier = form.get("code_verifier") ?? "";
      const digest = await crypto.subtle.digest("SHA-256", new TextEncoder().encode(verifier));
      const challenge = Buffer.from(digest).toString("base64url");
      if (!c || c.challenge !== challenge || c.redirect !== form.get("redirect_uri")) return null;
      const now = Math.floor(Date.now() / 1000);
      const claims = this.bend({
        iss: this.issuer,
        aud: this.clientId,
        iat: now,
        exp: now + 300,
        nonce: c.nonce,
        auth_time: now,
        ...c.claims,
      });
      const token = await new SignJWT(claims)
        .setProtectedHeader({ alg: "RS256", kid: "one" })
        .sign(this.forge ? other.privateKey : own.privateKey);
      return { access_token: randomUUID(), token_type: "bearer", expires_in: 60, id_token: token };
    };
    this.server = createServer((q, r) => {
      const json = (status: number, body: unknown) =>
        r.writeHead(status, { "content-type": "application/json" }).end(JSON.stringify(body));
      if (q.url === "/.well-known/openid-configuration")
        return json(200, {
          issuer: this.issuer,
          authorization_endpoint: `${this.issuer}/authorize`,
          token_endpoint: `${this.issuer}/token`,
          jwks_uri: `${this.issuer}/keys`,
          response_types_supported: ["code"],
          subject_types_supported: ["public"],
          id_token_signing_alg_values_supported: ["RS256"],
        });
      if (q.url === "/keys") return json(200, { keys: [jwk] });
      let body = "";
      q.on("data", (d: Buffer) => (body += d.toString())).on("end", () => {
        const form = new URLSearchParams(body);
        void tokenFor(form.get("code") ?? "", form).then((t) =>
          t ? json(200, t) : json(400, { error: "invalid_grant" }),
        );
      });
    }).listen(0, "127.0.0.1");
    await new Promise((done) => this.server!.once("listening", done));
    this.issuer = `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  close(): Promise<void> {
    return new Promise((done) => {
      this.server?.close(() => done());
      this.server?.closeAllConnections();
    });
  }

  /** Somebody signs in at the address they were sent to; what they come back with. */
  signIn(url: string, claims: Claims): string {
    const q = new URL(url).searchParams;
    const code = randomUUID();
    this.codes.set(code, {
      claims,
      nonce: q.get("nonce") ?? "",
      challenge: q.get("code_challenge") ?? "",
      redirect: q.get("redirect_uri") ?? "",
    });
    return `?${new URLSearchParams({ code, state: q.get("state") ?? "" })}`;
  }
}
