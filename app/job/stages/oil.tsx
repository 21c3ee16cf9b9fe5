import { oilDueMl } from '#core/tape'
import { useShow } from '~/base/ui/reader'
import { CameOut } from '../circuit/oil/came-out'
import { Drive, useDrive } from '../field/drive'
import { Clearing } from '../circuit/oil/clearing'
import { Dye } from '../circuit/oil/dye'
import { PutIn } from '../circuit/oil/put-in'
import { useJob } from '../field/job-context'

/** What came out goes back, fresh, plus what the replaced parts took: nothing out and nothing replaced, nothing in. */
export function Oil() {
  const { state, data, closed } = useJob()
  const drive = useDrive()
  return (
    <>
      <Balance />
      <Drive />
      {drive === 'high-voltage' && <Clearing />}
      <p className="mb-0 quiet">
        {data.system?.oilType ? `The system takes ${data.system.oilType}. ` : ''}Same type and grade, fresh.
        The maker of the compressor decides.
      </p>
      {!closed && (
        <>
          <CameOut />
          <PutIn />
          <Dye />
        </>
      )}
      {closed && state.dyed && <p className="mb-0">Dye is in it.</p>}
    </>
  )
}

function Balance() {
  const { state } = useJob()
  const show = useShow()
  const dueMl = oilDueMl(state)
  const { outMl, partsMl, inMl } = state.oil
  const out = outMl + state.drainedMl
  const nothing = out === 0 && partsMl === 0
  return (
    <div>
      <div className="quiet">{dueMl < -1e-6 ? 'Too much went in' : 'Still to put in'}</div>
      <div className="hero">{show('volume', Math.abs(dueMl))}</div>
      <div className="quiet">
        {nothing && inMl === 0
          ? 'Nothing came out and nothing was replaced: nothing goes in.'
          : `out ${show('volume', out)} + parts ${show('volume', partsMl)} − in ${show('volume', inMl)}`}
      </div>
    </div>
  )
}
