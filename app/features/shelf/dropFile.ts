// A file dropped anywhere on the shelf: a recording begins a new song, anything else is opened.

const SOUND = /\.(wav|mp3|ogg|oga|opus|flac|m4a|aac|aif|aiff|webm)$/i

export function useDropFile(newDialog: Ref<boolean>, open: (file: File) => void) {
  const dropping = ref(false)
  const dropped = shallowRef<File>()
  watch(newDialog, (isOpen) => {
    if (!isOpen) dropped.value = undefined
  })
  function over(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return
    event.preventDefault()
    dropping.value = true
  }
  function left(event: DragEvent): void {
    const to = event.relatedTarget as Node | null
    if (!to || !(event.currentTarget as HTMLElement).contains(to)) dropping.value = false
  }
  function drop(event: DragEvent): void {
    dropping.value = false
    const file = event.dataTransfer?.files[0]
    if (!file) return
    if (file.type.startsWith('audio/') || SOUND.test(file.name)) {
      dropped.value = file
      newDialog.value = true
    } else open(file)
  }
  return { dropping, dropped, over, left, drop }
}
