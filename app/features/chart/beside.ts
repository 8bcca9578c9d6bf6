import type { Content } from '#core/document/schema'

/** What is drawn under the figure to the same ruler; on the strings of another part when it is for one. */
export interface Beside {
  title: string
  content: Content
  partId?: string
}
