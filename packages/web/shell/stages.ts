import {
  IconBooks,
  IconListTree,
  IconPencil,
  IconPrinter,
  IconTypography,
} from '@tabler/icons-vue';

/** The stages of the work that there are, in their order. */
export const stages = [
  { name: 'library', label: 'Library', icon: IconBooks, keys: 'g l' },
  { name: 'write', label: 'Write', icon: IconPencil, keys: 'g w' },
  { name: 'arrange', label: 'Arrange', icon: IconListTree, keys: 'g a' },
  { name: 'style', label: 'Style', icon: IconTypography, keys: 'g s' },
  { name: 'publish', label: 'Publish', icon: IconPrinter, keys: 'g p' },
] as const;
