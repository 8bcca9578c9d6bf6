// A question before something goes along with a change: what was asked for is done only after a yes.
export interface Question {
  title: string
  /** What goes along, a clause each. */
  consequences: string[]
  yes: string
}

const asked = shallowRef<(Question & { answer: (yes: boolean) => void }) | undefined>()

/** The question that is open, for the dialog that shows it. */
export const useQuestion = () => asked

/** Asks and resolves with the answer; a question still open is answered with no. */
export function ask(question: Question): Promise<boolean> {
  asked.value?.answer(false)
  return new Promise((resolve) => {
    asked.value = {
      ...question,
      answer: (yes) => {
        asked.value = undefined
        resolve(yes)
      },
    }
  })
}
