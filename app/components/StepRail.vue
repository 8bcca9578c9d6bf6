<script setup lang="ts">
import { figureContent } from '#core/document/figure-content'
import { chartedShare, percentOf } from '#core/timeline/coverage'
import { useSong } from '~/stores/song'
import { useSongCheck } from '~/stores/songCheck'

const song = useSong()
const route = useRoute()
/** Bars alone are less than half of the way; the rest are named sections. */
function laidOutShare(named: number): number {
  if (!song.source?.grid) return 0
  return song.sections.length > 1 ? 0.5 + (0.5 * named) / song.sections.length : 0.4
}
const checked = useSongCheck()
/** As its page says it; nothing before the song has been looked through. */
const proved = computed((): { share: number; words: string } => {
  if (!checked.check) return { share: 0, words: '' }
  const { open, all } = checked.sums
  return { share: all ? 1 - open / all : 1, words: open ? `${open} open` : 'nothing open' }
})
/** How far each step is, 0–1, computed from the document. */
const steps = computed(() => {
  const doc = song.song
  if (!doc) return []
  const charted = chartedShare(doc)
  const named = song.sections.filter((section) => section.kind !== 'other').length
  const figures = Object.values(doc.figures)
  const written = figures.filter((figure) => {
    const content = figureContent(doc, figure)
    return content.notes.length + content.grips.length + content.strokes.length > 0
  }).length
  return [
    { to: '/', name: 'Shelf', share: 1, words: '' },
    {
      to: `/song/${doc.id}/setup`,
      name: 'Set up',
      share: song.parts.length > 0 ? 1 : 0.5,
      words: `${song.parts.length} parts`,
    },
    {
      to: `/song/${doc.id}/listen`,
      name: 'Listen',
      share: laidOutShare(named),
      words: `${song.sections.length} sections`,
    },
    {
      to: `/song/${doc.id}/map`,
      name: 'Map',
      share: charted,
      words: `${percentOf(charted)} % of the bars charted`,
    },
    {
      to: `/song/${doc.id}/chart`,
      name: 'Chart',
      share: figures.length ? written / figures.length : 0,
      words: `${written} of ${figures.length} figures written`,
    },
    { to: `/song/${doc.id}/prove`, name: 'Prove', ...proved.value },
    { to: `/song/${doc.id}/teach`, name: 'Teach', share: charted > 0 ? 1 : 0, words: '' },
    { to: `/song/${doc.id}/handout`, name: 'Hand out', share: charted > 0 ? 1 : 0, words: '' },
  ]
})
/** Comparing belongs to proving, the stand to teaching. */
const path = computed(() => route.path.replace(/\/compare$/, '/prove').replace(/\/stand$/, '/teach'))
const isHere = (to: string): boolean => (to === '/' ? path.value === '/' : path.value.startsWith(to))
</script>

<template>
  <nav v-if="steps.length" class="rail" aria-label="Steps of the work">
    <NuxtLink
      v-for="step in steps"
      :key="step.name"
      :to="step.to"
      class="step"
      :class="{ here: isHere(step.to) }"
      :aria-current="isHere(step.to) ? 'page' : undefined"
      :title="step.words"
    >
      <span class="name">{{ step.name }}</span>
      <svg class="dot" viewBox="0 0 20 20" aria-hidden="true">
        <defs>
          <clipPath :id="`fill-${step.name.replace(' ', '')}`">
            <rect x="0" :y="19 - 18 * step.share" width="20" height="20" />
          </clipPath>
        </defs>
        <circle cx="10" cy="10" r="8" class="hole" />
        <circle cx="10" cy="10" r="8" class="fill" :clip-path="`url(#fill-${step.name.replace(' ', '')})`" />
        <circle cx="10" cy="10" r="8" class="ring" />
      </svg>
      <span class="visually-hidden">{{ step.words }}</span>
    </NuxtLink>
  </nav>
  <div v-else class="rail" />
</template>

<style scoped>
.rail {
  position: relative;
  padding: 26px 12px 0 0;
  display: flex;
  flex-direction: column;
  gap: 34px;
}
.rail:has(.step)::after {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  right: 19.5px;
  width: 1px;
  background: var(--rule);
}
.step {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 9px;
  text-decoration: none;
  color: var(--quiet);
  font-size: 14.5px;
  min-height: 28px;
  z-index: 1;
}
.dot {
  width: 16px;
  height: 16px;
  flex: none;
}
.hole {
  fill: var(--page);
}
.fill {
  fill: var(--deep);
}
.ring {
  fill: none;
  stroke: var(--deep);
  stroke-width: 1.6;
}
.here {
  color: var(--ink);
  font-weight: 700;
}
.here .dot {
  width: 22px;
  height: 22px;
  margin-right: -3px;
}
.here .fill {
  fill: var(--action);
}
.here .ring {
  stroke: var(--action);
  stroke-width: 2.2;
}
@media (max-width: 900px) {
  .name {
    font-size: 11px;
    width: 40px;
    text-align: right;
    line-height: 1.1;
  }
  .rail {
    padding-right: 6px;
  }
  .rail:has(.step)::after {
    right: 13.5px;
  }
  .step {
    gap: 3px;
  }
}
@media (max-width: 600px) {
  .rail {
    flex-direction: row;
    gap: 4px;
    padding: 0 8px;
    overflow-x: auto;
  }
  .rail:has(.step) {
    border-bottom: 1px solid var(--rule);
  }
  .rail:has(.step)::after {
    content: none;
  }
  .step {
    flex: 1 0 40px;
    flex-direction: column-reverse;
    justify-content: flex-end;
    gap: 2px;
    padding: 4px 0;
  }
  .name {
    width: auto;
    text-align: center;
    white-space: nowrap;
  }
  .dot,
  .here .dot {
    width: 14px;
    height: 14px;
    margin: 0;
  }
}
</style>
