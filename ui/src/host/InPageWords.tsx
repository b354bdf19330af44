import { type ReactNode, Suspense, use } from 'react'
import { SpokenIn, textsIn } from '../page/texts'
import { spoken } from '../say'

const texts = textsIn(spoken)

/** Parts of the client's page inside the host's views: they speak the host's language. */
export function InPageWords({ children }: { children: ReactNode }) {
  return (
    <Suspense>
      <Loaded>{children}</Loaded>
    </Suspense>
  )
}

function Loaded({ children }: { children: ReactNode }) {
  return <SpokenIn value={use(texts)}>{children}</SpokenIn>
}
