import { getDomain } from "tldts";
import { toASCII } from "tr46";

/**
 * A domain as we compare domains: trimmed, lower case, in ASCII by UTS #46 (non-transitional).
 * A name that IDNA refuses stays as it was written, in lower case, so that it is still seen.
 */
export function normaliseDomain(domain: string): string {
  const plain = domain.trim().toLowerCase();
  // What is ASCII in lower case maps to itself, or is refused and stays as it is.
  if (!/[^\x00-\x7f]/.test(plain)) return plain;
  let mapped = mappedDomains.get(plain);
  if (mapped === undefined) {
    if (mappedDomains.size === MOST_MAPPED) mappedDomains.clear();
    mappedDomains.set(plain, (mapped = toASCII(plain, { transitionalProcessing: false }) || plain));
  }
  return mapped;
}

/** To map a domain takes long, and few of them are in the addresses of very many people. */
const mappedDomains = new Map<string, string>();
const MOST_MAPPED = 10_000;

/** An e-mail address as we compare addresses: trimmed, lower case whole, its domain normalised. */
export function normaliseAddress(address: string): string {
  const plain = address.trim().toLowerCase();
  const at = plain.lastIndexOf("@");
  return plain.slice(0, at + 1) + normaliseDomain(plain.slice(at + 1));
}

/** The part of an address behind its last @. */
export function domainOf(address: string): string {
  return address.slice(address.lastIndexOf("@") + 1);
}

/** Whether a normalised domain is one of the home domains or lies below one. */
export function isHomeDomain(domain: string, homeDomains: readonly string[]): boolean {
  return homeDomains.some((home) => domain === home || domain.endsWith("." + home));
}

/**
 * The registrable domain by the Public Suffix List without its private section. A top domain that
 * isn't listed counts as a suffix of one label; a domain that is itself a suffix is its own organisation.
 */
export function organisationOf(domain: string): string {
  return getDomain(domain, { allowPrivateDomains: false, validateHostname: false }) ?? domain;
}
