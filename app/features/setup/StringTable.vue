<script setup lang="ts">
import { z } from 'zod'
import { gaugesOf, stringTensions } from '#core/instrument/string-tension'
import { tuningChecks } from '#core/instrument/tuning-checks'
import { describeTuning } from '#core/instrument/tunings'
import type { Part } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// Each string of a part: what it sounds, how to get there and check it, how thick it is and how tight.
const props = defineProps<{ part: Part; typed: Record<number, string> }>()
const emit = defineEmits<{ type: [stringNumber: number, text: string] }>()
const store = useSong()
const preferences = usePreferences()
const gaugeSchema = z.number().min(0.005).max(0.2)
/** "string 5", "the A string": as strings are named on the page. */
const stringWords = (stringNumber: number): string =>
  preferences.values.strings === 'numbers'
    ? `string ${stringNumber}`
    : `the ${store.stringLabel(props.part, stringNumber)} string`
const strings = computed(() =>
  describeTuning(props.part.instrument.kind, props.part.tuning.openMidi, stringWords),
)
const tensions = computed(() => stringTensions(props.part, store.song?.referenceHz))
const checks = computed(() => tuningChecks(props.part.tuning.openMidi, stringWords))
const byEar = ref(false)
/** Share of the bar a tension takes: its end is a third above the most that is usual. */
const shareOf = (newtons: number, most: number): string =>
  `${Math.round(Math.min(1, newtons / (most * 1.3)) * 100)}%`
function setGauge(stringNumber: number, gauge: number): void {
  const { instrument } = props.part
  const gauges = gaugesOf(props.part).map((one, index) => (index + 1 === stringNumber ? gauge : one))
  store.run('changePart', { partId: props.part.id, set: { instrument: { ...instrument, gauges } } })
}
/** "+2", "−1" half steps against the standard tuning. */
function fromStandard(semitones: number): string {
  if (semitones === 0) return 'as standard'
  return `${semitones > 0 ? '+' : '−'}${Math.abs(semitones)}`
}
</script>

<template>
  <table class="strings">
    <thead>
      <tr>
        <th>string</th>
        <th>sounds</th>
        <th>from standard</th>
        <th>the way there</th>
        <th>gauge, inches</th>
        <th>tension</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(string, index) in strings" :key="string.stringNumber">
        <td class="mono">{{ store.stringLabel(part, string.stringNumber) }}</td>
        <td>
          <v-text-field
            class="pitch mono inline-field"
            variant="underlined"
            :model-value="typed[string.stringNumber] ?? string.name"
            :aria-label="`Pitch of string ${string.stringNumber}`"
            @change="emit('type', string.stringNumber, ($event.target as HTMLInputElement).value)"
          />
        </td>
        <td class="mono">{{ fromStandard(string.fromStandard) }}</td>
        <td>{{ string.way }}</td>
        <td>
          <NumberField
            class="gauge"
            label=""
            :aria-label="`Gauge of string ${string.stringNumber}, inches`"
            :schema="gaugeSchema"
            :step="0.001"
            :model-value="tensions[index]!.gauge"
            @take="setGauge(string.stringNumber, $event)"
          />
        </td>
        <td>
          <div class="tension">
            <span class="bar" aria-hidden="true">
              <i
                :class="{ beyond: tensions[index]!.caution }"
                :style="{ width: shareOf(tensions[index]!.newtons, tensions[index]!.most) }"
              />
              <b :style="{ left: shareOf(tensions[index]!.least, tensions[index]!.most) }" />
              <b :style="{ left: shareOf(tensions[index]!.most, tensions[index]!.most) }" />
            </span>
            <span class="mono">{{ tensions[index]!.newtons }} N</span>
          </div>
          <p v-if="tensions[index]!.caution" class="evidence caution">{{ tensions[index]!.caution }}</p>
        </td>
      </tr>
    </tbody>
  </table>
  <p class="quiet about">
    Tension is computed from gauge, scale length and pitch; the marks show what is usual.
    {{ part.instrument.gauges ? '' : 'The gauges are those of a common set: type your own.' }}
    <ActButton kind="link" :aria-expanded="byEar" data-test="tuning-checks" @click="byEar = !byEar">
      {{ byEar ? 'Hide the checks by ear' : 'Check the tuning by ear' }}
    </ActButton>
  </p>
  <ul v-if="byEar" class="checks">
    <li v-for="check in checks" :key="`${check.stringNumber}${check.how}`">
      <b>{{ stringWords(check.stringNumber) }}</b>, by {{ check.how }}: {{ check.text }}
    </li>
  </ul>
</template>

<style scoped>
.strings {
  width: 100%;
  border-collapse: collapse;
  font-size: 14.5px;
}
.strings th {
  text-align: left;
  font-weight: 400;
  color: var(--quiet);
  font-size: 13.5px;
  padding: 3px 8px;
}
.strings td {
  border-top: 1px solid var(--rule);
  padding: 3px 8px;
}
.pitch {
  width: 74px;
  font-weight: 700;
}
.gauge {
  width: 92px;
}
.tension {
  white-space: nowrap;
  display: flex;
  gap: 8px;
  align-items: center;
}
.bar {
  position: relative;
  width: 92px;
  height: 9px;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--quiet);
}
.bar i.beyond {
  background: var(--attention);
}
.bar b {
  position: absolute;
  top: -3px;
  bottom: -3px;
  border-left: 1.5px solid var(--ink);
}
.caution {
  max-width: 260px;
  font-size: 13.5px;
}
.about {
  font-size: 13.5px;
  margin-top: 6px;
}
.checks {
  margin: 4px 0 0;
  padding-left: 18px;
  font-size: 14px;
}
</style>
