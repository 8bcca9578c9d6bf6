import { scaleLinear } from 'd3-scale'

/** Measures of the small pictures behind a "why?", pixels. */
export const WIDTH = 244
export const HEIGHT = 112
export const PAD = { left: 30, right: 6, top: 8, bottom: 18 }

export const scaleX = (domain: [number, number]) =>
  scaleLinear()
    .domain(domain)
    .range([PAD.left, WIDTH - PAD.right])
export const scaleY = (domain: [number, number]) =>
  scaleLinear()
    .domain(domain)
    .range([HEIGHT - PAD.bottom, PAD.top])
