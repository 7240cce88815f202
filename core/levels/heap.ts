/** A binary heap of numbers with payloads: the smallest key first. Push and pop in O(log n). */
export class Heap<T> {
  private readonly items: { key: number; value: T }[] = [];

  get size(): number {
    return this.items.length;
  }

  /** The smallest key; Infinity when empty. */
  get least(): number {
    return this.items.length > 0 ? this.items[0].key : Infinity;
  }

  push(key: number, value: T): void {
    const { items } = this;
    let i = items.length;
    items.push({ key, value });
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (items[parent].key <= key) break;
      items[i] = items[parent];
      i = parent;
    }
    items[i] = { key, value };
  }

  pop(): T | undefined {
    const { items } = this;
    const top = items[0];
    const last = items.pop();
    if (!last || items.length === 0) return top?.value;
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && items[child + 1].key < items[child].key) child++;
      if (items[child].key >= last.key) break;
      items[i] = items[child];
      i = child;
    }
    items[i] = last;
    return top.value;
  }
}
