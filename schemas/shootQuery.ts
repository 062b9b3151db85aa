import Joi from 'joi'
import type { ShootState } from './api'

export type ShootOrder = 'changed' | 'created' | 'oldest' | 'state' | 'title'

/** Which shoots are asked for, as an address names them. */
export interface ShootQuery {
  words: string
  /** Empty for all. */
  state: ShootState | ''
  order: ShootOrder
  from: number
}

export const shootQuerySchema = Joi.object<ShootQuery>({
  words: Joi.string().trim().allow('').max(200).default(''),
  state: Joi.valid('', 'planned', 'shot', 'fused').default(''),
  order: Joi.valid('changed', 'created', 'oldest', 'state', 'title').default('changed'),
  from: Joi.number().integer().min(0).default(0),
})

/** Which renders are asked for, and the shoot whose own come first. */
export interface RenderQuery {
  from: number
  first?: number
}

export const renderQuerySchema = Joi.object<RenderQuery>({
  from: Joi.number().integer().min(0).default(0),
  first: Joi.number().integer().min(1),
})
