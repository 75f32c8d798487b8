import { onScopeDispose, shallowReactive } from 'vue';

/** Addresses of pictures that were fetched, by a key; each is given back when another takes its place, or none is wanted. */
export function useObjectUrls<K>() {
  const urls = shallowReactive(new Map<K, string>());

  function drop(key: K): void {
    const url = urls.get(key);
    if (url) URL.revokeObjectURL(url);
    urls.delete(key);
  }
  function keep(wanted: (key: K) => boolean): void {
    for (const key of [...urls.keys()]) if (!wanted(key)) drop(key);
  }
  onScopeDispose(() => keep(() => false));

  return {
    urls: urls as ReadonlyMap<K, string>,
    put: (key: K, file: Blob): void => {
      drop(key);
      urls.set(key, URL.createObjectURL(file));
    },
    /** Gives back all but those that are wanted. */
    keep,
  };
}
