/** Lets what waits go first: the page paints, a worker hears a message; resolves as soon as it has. */
export const pause = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(0)
  })
