/** First address after the module's own constants; everything from here on belongs to the engine's allocator. */
export function heapBase(): usize {
  return __heap_base;
}
