import { Link, useLocation } from 'react-router';
import { Frame } from '../frame/Frame';
import { stages } from '../frame/stages';

/** An address that leads nowhere: what is wrong with it, and where to go. */
export function NoPlace() {
  const { pathname } = useLocation();
  const stage = stages.find((s) => pathname === `/${s.path}`);
  return (
    <Frame
      here="Arrivals"
      sceneId={undefined}
      call={
        <>
          {stage ? `${stage.name} shows one scene, and none is picked.` : <em>There is nothing at this address.</em>}{' '}
          <Link to="/arrivals">Pick a scene</Link>.
        </>
      }
      among="scenes"
      keys={[]}
    >
      {!stage && <code className="block truncate px-7 text-[12.5px] text-quiet">{pathname}</code>}
    </Frame>
  );
}
