/** A provider of sign-ins (OpenID Connect Core 1.0), as Cobble Step is registered there. */
export interface Provider {
  issuer: string;
  clientId: string;
  clientSecret: string;
}
/** Where somebody was sent, to be held against what they come back with. */
export interface Going {
  state: string;
  nonce: string;
  verifier: string;
}
/** Who somebody is, as the provider says. */
export interface ProviderIdentity {
  issuer: string;
  subject: string;
  email: string | null;
  /** Whether the provider has made sure that the address is theirs. */
  emailVerified: boolean;
  name: string | null;
}

// Loaded when somebody signs in so: nothing else needs it.
const library = () => import("openid-client");

type Configuration = Awaited<ReturnType<Awaited<ReturnType<typeof library>>["discovery"]>>;
/** What a provider says of itself is asked again after a while. */
const KEPT_MS = 3_600_000;
let kept: { issuer: string; at: number; configuration: Configuration } | null = null;

async function configurationOf(p: Provider): Promise<Configuration> {
  if (kept && kept.issuer === p.issuer && performance.now() - kept.at < KEPT_MS) return kept.configuration;
  const oidc = await library();
  const url = new URL(p.issuer);
  const configuration = await oidc.discovery(url, p.clientId, p.clientSecret, undefined, {
    timeout: 10,
    // The signature is looked at even though the token comes straight from the provider (Core 3.1.3.7, 6 would do
    // without); settings allow http on this machine alone.
    execute: [
      oidc.enableNonRepudiationChecks,
      ...(url.protocol === "http:" ? [oidc.allowInsecureRequests] : []),
    ],
  });
  kept = { issuer: p.issuer, at: performance.now(), configuration };
  return configuration;
}

/**
 * The address at the provider to send somebody to (authorization code flow with PKCE, RFC 7636).
 * @param anew they are to show who they are even if they are signed in there
 */
export async function sendToProvider(
  p: Provider,
  backTo: string,
  anew: boolean,
): Promise<{ url: string; going: Going }> {
  const oidc = await library();
  const going = {
    state: oidc.randomState(),
    nonce: oidc.randomNonce(),
    verifier: oidc.randomPKCECodeVerifier(),
  };
  const url = oidc.buildAuthorizationUrl(await configurationOf(p), {
    redirect_uri: backTo,
    scope: "openid email profile",
    state: going.state,
    nonce: going.nonce,
    code_challenge: await oidc.calculatePKCECodeChallenge(going.verifier),
    code_challenge_method: "S256",
    ...(anew ? { prompt: "login", max_age: "0" } : {}),
  });
  return { url: url.href, going };
}

/** So many seconds ago somebody who was to show anew who they are may have done so. */
const ANEW_SECONDS = 300;

/**
 * Who came back. State, nonce, signature, issuer, audience and times are held by the library.
 * @param url with which they came back, at the address they were told to
 * @throws where anything of it does not fit
 */
export async function whoCameBack(
  p: Provider,
  url: URL,
  going: Going,
  anew: boolean,
): Promise<ProviderIdentity> {
  const oidc = await library();
  const tokens = await oidc.authorizationCodeGrant(await configurationOf(p), url, {
    expectedState: going.state,
    expectedNonce: going.nonce,
    pkceCodeVerifier: going.verifier,
    idTokenExpected: true,
    ...(anew ? { maxAge: ANEW_SECONDS } : {}),
  });
  const claims = tokens.claims();
  if (!claims) throw new Error("the provider sent no ID token");
  const text = (v: unknown) => (typeof v === "string" && v !== "" ? v : null);
  return {
    issuer: claims.iss,
    subject: claims.sub,
    email: text(claims["email"]),
    emailVerified: claims["email_verified"] === true,
    name: text(claims["name"]),
  };
}
