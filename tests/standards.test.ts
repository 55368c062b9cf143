import fc from "fast-check";
import { whoReaches } from "@/core/access/reach";
import { ROLES } from "@/core/estate/records";
import { estateOf, file, grant, group, item, T } from "./records";

/**
 * What published models of access control say, as far as it applies here. All three can deny; ours only
 * adds up, so only what they say of grants that add up can be held against it. Sections are named from
 * memory of the texts.
 *
 * - NFSv4, RFC 8881, section 6.2.1: entries are gone through in order until every bit that is asked for is
 *   allowed, or one is denied. Without DENY entries that is the union of all ALLOW entries that match, whatever
 *   their order. Does not apply: DENY, and inheritance, which there is copied when a file is made.
 * - POSIX.1e, draft 17, section 23.1.5: the first class that matches decides (owner, named user, groups,
 *   other), which is not ours. Applies: within the class of groups, any one matching entry is enough.
 * - WebDAV ACL, RFC 3744, section 2: membership in groups is recursive. Section 6: without deny entries
 *   the grants of all matching entries add up. Does not apply: deny, protected and inherited-only entries.
 */
const roles = fc.constantFrom(...ROLES);
const reach = (estate: ReturnType<typeof estateOf>) => {
  const who = whoReaches(estate, T, estate.tree.position("f")!);
  return who.get(estate.principals.findAddress("out@quay.example")!)?.role;
};

test("NFSv4, RFC 8881 6.2.1, without DENY: each bit that some entry allows is allowed, in whatever order they stand", () => {
  /** A role as a mask: each holds what the weaker ones allow. */
  const mask = (role: (typeof ROLES)[number]) => 2 ** (ROLES.indexOf(role) + 1) - 1;
  const entries = fc.array(fc.tuple(fc.constantFrom("out", "in", "crew"), roles), { minLength: 1, maxLength: 6 });
  fc.assert(
    fc.property(entries, (acl) => {
      // The RFC's way: through the list, bit by bit, until all that is asked for is allowed.
      const allowed = ROLES.filter((role) => {
        let missing = mask(role);
        for (const [who, given] of acl) if (who === "out" || who === "crew") missing &= ~mask(given);
        return missing === 0;
      });
      const shares = acl.map(([who, role], i) => grant(`s${i}`, "f", who, { role }));
      expect(reach(estateOf(group("crew", "out"), file("f", null), shares))).toBe(allowed.at(-1));
    }),
  );
});

test("POSIX.1e 23.1.5, among groups: one matching group entry with the permission is enough", () => {
  const estate = estateOf(
    group("readers", "out"),
    group("writers", "out"),
    group("others", "in"),
    file("f", null),
    grant("r", "f", "readers", { role: "view" }),
    grant("w", "f", "writers", { role: "edit" }),
    grant("o", "f", "others", { role: "manage" }),
  );
  expect(reach(estate)).toBe("edit");
});

test("WebDAV ACL, RFC 3744 2 and 6: membership is recursive, and the grants of all matching entries add up", () => {
  const estate = estateOf(
    group("grpa", "out"),
    group("grpb", "grpa"),
    group("grpc", "grpb"),
    item("c", null),
    file("f", "c"),
    grant("a", "f", "grpc", { role: "view" }),
    grant("b", "c", "grpb", { role: "comment" }),
  );
  expect(reach(estate)).toBe("comment");
});
