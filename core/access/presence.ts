import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";

/**
 * Who is inside at one place of a sweep. People come and go by as many ways as there are; each is counted once. They are
 * given as ranges of the pool of members: no two ranges overlap, so where one begins tells it from all others.
 */
export class Presence {
  /** By person: by how many ranges they are inside. */
  private times: Int32Array;
  /** By where a range begins: how often it is inside. One that is inside already brings nobody new. */
  private ranges: Int32Array;

  constructor(private readonly estate: Estate) {
    const { people, pool } = estate.principals;
    this.times = new Int32Array(people.length);
    this.ranges = new Int32Array(pool.length);
  }

  /** Makes room for people that have been heard of since. */
  grow() {
    const { people, pool } = this.estate.principals;
    this.times = grown(this.times, people.length);
    this.ranges = grown(this.ranges, pool.length);
  }

  /** A range of people comes. @returns how many of them weren't inside */
  enter(from: number, to: number): number {
    if (from === to || this.ranges[from]++ > 0) return 0;
    const { pool } = this.estate.principals;
    const { times } = this;
    let come = 0;
    for (let i = from; i < to; i++) if (times[pool[i]]++ === 0) come++;
    return come;
  }

  /** A range of people goes, once. @returns how many of them aren't inside any more */
  leave(from: number, to: number): number {
    if (from === to || --this.ranges[from] > 0) return 0;
    const { pool } = this.estate.principals;
    const { times } = this;
    let gone = 0;
    for (let i = from; i < to; i++) if (--times[pool[i]] === 0) gone++;
    return gone;
  }
}
