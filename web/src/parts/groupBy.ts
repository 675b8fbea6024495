/** Things by what `of` says of each, in the order they come. `Map.groupBy` is younger than the tablets this runs on. */
export function groupBy<K, T>(things: Iterable<T>, of: (thing: T) => K): Map<K, T[]> {
  const out = new Map<K, T[]>()
  for (const thing of things) {
    const key = of(thing)
    const list = out.get(key)
    if (list) list.push(thing)
    else out.set(key, [thing])
  }
  return out
}
