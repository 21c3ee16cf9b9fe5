// Folds every job of every shop again into the job list. Used by ./keg rebuild-summaries.
import { allShops, closeDatabase, rebuildSummaries } from '#db'

let count = 0
for (const shopId of await allShops()) count += await rebuildSummaries(shopId)
await closeDatabase()
console.log(`[keg] folded ${count} jobs`)
