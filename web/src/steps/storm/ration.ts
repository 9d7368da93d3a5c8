/** The plan that makes it last, asked for on demand and kept until the design moves on. */
import { defineStore } from 'pinia'

import { api, outcome } from '@/api/client'
import { createSlowAnswer } from '@/api/slowAnswer'

export const useRation = defineStore('ration', () =>
  createSlowAnswer((body) => outcome(api.POST('/api/ration', { body }))),
)
