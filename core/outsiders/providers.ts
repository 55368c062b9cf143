import common from "email-providers/common.json";

const PROVIDERS: ReadonlySet<string> = new Set(common);

/**
 * Whether a domain belongs to a common mailbox provider, by a list from the registry. It is only a proposal: an
 * administrator confirms a domain as one of private mailboxes.
 */
export function isMailboxProvider(domain: string): boolean {
  return PROVIDERS.has(domain);
}
