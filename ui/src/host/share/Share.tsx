import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Need, SelectField } from '../../kit/kit'
import { LanguageOptions } from '../../kit/LanguageOptions'
import { say, spoken, told } from '../../say'
import { useType } from '../queries'
import { Unread, View } from '../Shell'
import { TypeFrame } from '../types/TypeFrame'
import { useDebounced } from '../useDebounced'
import { Copy } from './Copy'
import { Embed } from './Embed'
import { Links } from './Links'
import { MailTimes } from './MailTimes'
import { Prepare } from './Prepare'
import { Printed } from './Printed'
import { type Link, type Shared, useSharing } from './sharing'

/** How a meeting type gets to its clients: its address, prepared links, times in a mail, a code, a place in somebody's page. */
export function ShareType() {
  const id = Number(useParams().id)
  const type = useType(id)
  const offer = useQuery({
    queryKey: keys.offer(id),
    queryFn: () => need(api.GET('/types/{id}/booking-page', { params: { path: { id } } })),
  })
  const shared: Shared = { kind: 'type', id }
  const [says, setSays] = useState<Link>({})
  const [language, setLanguage] = useState<string>(spoken)
  const sharing = useSharing(shared, useDebounced(says), language)
  if (!type.data || !sharing.data) return <Unread error={type.error ?? sharing.error} />
  return (
    <TypeFrame
      type={type.data}
      part={say.share.share}
      bar={null}
      changed={false}
      aside={<Printed shared={shared} sharing={sharing.data} language={language} />}
      asideWidth="23.7rem"
    >
      <Address sharing={sharing.data} />
      {offer.data && (
        <Prepare page={offer.data.page} says={says} onSay={setSays} misfits={sharing.data.misfits.map(told)} />
      )}
      <Links type={type.data} says={says} onTake={setSays} />
      <MailTimes type={type.data} says={says} />
      <Signature sharing={sharing.data} language={language} onLanguage={setLanguage} />
      <Embed sharing={sharing.data} />
    </TypeFrame>
  )
}

const titles: Record<Shared['kind'], string> = { type: '', ...say.share.pageOf }

/** The same for the page of a person, a team or the workspace. */
export function SharePage() {
  const { kind = 'workspace', id = '0' } = useParams()
  const shared = { kind: kind in titles ? kind : 'workspace', id: Number(id) } as Shared
  const [language, setLanguage] = useState<string>(spoken)
  const sharing = useSharing(shared, {}, language)
  if (!sharing.data) return <Unread error={sharing.error} />
  return (
    <View
      title={say.share.shareOf(sharing.data.name)}
      note={titles[shared.kind]}
      actions={
        <a href={sharing.data.path} target="_blank" rel="noreferrer">
          {say.share.viewClient}
        </a>
      }
      aside={<Printed shared={shared} sharing={sharing.data} language={language} />}
    >
      <Address sharing={sharing.data} />
      <Signature sharing={sharing.data} language={language} onLanguage={setLanguage} />
      <Embed sharing={sharing.data} />
    </View>
  )
}

function Address({ sharing }: { sharing: Schemas['Sharing'] }) {
  return (
    <section aria-labelledby="address-head" className="max-w-3xl">
      <h2 id="address-head">{say.share.address}</h2>
      {sharing.closed && <Need className="mt-2">{told(sharing.closed)}</Need>}
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <output
          aria-label={say.share.addressShare}
          className="wrap-anywhere border-b border-rule-strong py-1 font-semibold"
        >
          {sharing.address}
        </output>
        <Copy text={{ plain: sharing.address }} words={say.share.copyAddress} kind="strong" />
      </p>
      <p className="mt-1 text-note text-ink-2">{say.share.addressesYouHaveGiven}</p>
    </section>
  )
}

interface SignatureProps {
  sharing: Schemas['Sharing']
  language: string
  onLanguage: (language: string) => void
}

/** A line for the end of one's mails. */
function Signature({ sharing, language, onLanguage }: SignatureProps) {
  return (
    <section aria-labelledby="signature-head" className="mt-9 max-w-3xl">
      <h2 id="signature-head">{say.share.lineYourMailSignature}</h2>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <div className="w-56">
          <SelectField
            label={say.share.whichLanguage}
            value={language}
            onChange={(event) => onLanguage(event.target.value)}
          >
            <LanguageOptions />
          </SelectField>
        </div>
        <p aria-label={say.share.line} role="note" lang={language} className="py-1">
          <a href={sharing.address} target="_blank" rel="noreferrer">
            {sharing.signature.plain.slice(0, -sharing.address.length - 2)}
          </a>
        </p>
        <Copy text={sharing.signature} words={say.share.copyLine} />
      </div>
    </section>
  )
}
