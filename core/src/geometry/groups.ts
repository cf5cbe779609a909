/** Things that are joined to each other one by one: which of them hang together (a forest of disjoint sets, ways to the root halved). */
export class Groups {
  private readonly onto: Int32Array;

  /** @param count how many things there are, each by itself at first */
  constructor(count: number) {
    this.onto = new Int32Array(count);
    for (let i = 0; i < count; i++) this.onto[i] = i;
  }

  /** The one that stands for all that hang together with a thing. */
  of(i: number): number {
    const { onto } = this;
    let at = i;
    while (onto[at] !== at) at = onto[at] = onto[onto[at]];
    return at;
  }

  /** Joins what hangs together with one to what does with another: what stands for the other stands for all then. */
  join(one: number, other: number): void {
    this.onto[this.of(one)] = this.of(other);
  }

  areJoined(one: number, other: number): boolean {
    return this.of(one) === this.of(other);
  }
}
