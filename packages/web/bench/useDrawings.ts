import { onBeforeUnmount, shallowRef, watch } from 'vue';

/** A new drawing takes a moment until it is on the screen: the one before it is let go after this long, in milliseconds. */
const letGoAfter = 2000;

/** Addresses of drawings for images; one that stays as it was keeps its address, and browsers need not build it again. */
export function useDrawings(drawings: () => readonly string[]) {
  const addresses = shallowRef<readonly string[]>([]);
  let known: ReadonlyMap<string, string> = new Map();
  watch(
    drawings,
    (svgs) => {
      const before = known;
      known = new Map(svgs.map((svg) => [svg, before.get(svg) ?? URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))]));
      addresses.value = svgs.map((svg) => known.get(svg)!);
      const gone = [...before.values()].filter((address) => !addresses.value.includes(address));
      setTimeout(() => gone.forEach((address) => URL.revokeObjectURL(address)), letGoAfter);
    },
    { immediate: true },
  );
  onBeforeUnmount(() => addresses.value.forEach((address) => URL.revokeObjectURL(address)));
  return addresses;
}
