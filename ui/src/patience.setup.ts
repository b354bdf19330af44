import { configure } from '@testing-library/dom'

// Tests wait for what they look at as long as a slow machine takes; a fast one is not slower for it.
configure({ asyncUtilTimeout: 20_000 })
