<script setup lang="ts">
import { format, formatDistanceToNow } from 'date-fns';
import { computed } from 'vue';

const { iso } = defineProps<{ iso: string }>();
const ago = computed(() => formatDistanceToNow(new Date(iso), { addSuffix: true }));
const exact = computed(() => format(new Date(iso), 'yyyy-MM-dd HH:mm:ss'));
</script>

<template>
  <time :datetime="iso" :title="exact">{{ ago }}</time>
</template>
