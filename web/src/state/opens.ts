import { createContext } from 'react'

/** Whether numbers open to how they came about: not for a guest, who sees one visit alone. */
export const OpensContext = createContext(true)
