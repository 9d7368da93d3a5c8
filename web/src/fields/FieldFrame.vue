<script setup lang="ts">
/** A labelled place for one control: the label above, so that it is never cut by the control's width. */
defineProps<{
  label: string
  for: string
  /** The label is for those who hear it; the table around says it to those who see. */
  quiet?: boolean
}>()
</script>

<template>
  <div class="frame">
    <label :for="$props.for" :title="label" :class="{ 'visually-hidden': quiet }">{{ label }}</label>
    <slot />
  </div>
</template>

<style scoped>
.frame {
  min-width: 0;
}

label {
  display: block;
  font-size: 12.5px;
  line-height: 1.3;
  color: var(--slate);
  margin-bottom: 2px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

@media (max-width: 640px) {
  /* In full: nobody can rest a pointer on it here. */
  label {
    white-space: normal;
  }

  .frame {
    display: flex;
    flex-direction: column;
    justify-content: flex-end;
  }
}
</style>
