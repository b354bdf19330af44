import type { Schemas } from '../../api/client'

/** What is edited of a booking page; which version it was is kept apart. */
export type Draft = Omit<Schemas['OfferChange'], 'version'>
