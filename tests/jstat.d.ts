/** The little that the tests ask of it: it comes without types. */
declare module "jstat" {
  export const jStat: {
    /** @param k how many bad ones are drawn @param N of all @param m bad ones @param n draws */
    hypgeom: { pdf(k: number, N: number, m: number, n: number): number };
  };
}
