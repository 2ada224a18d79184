import { useSession } from '../data/queries';
import { PartsPage } from '../features/parts/parts-page';
import NotFound from './+not-found';

/** Only where Under Chalk is tried out: in the demo, and in tests, which run it. */
const Parts = () => (useSession().data?.demo ? <PartsPage /> : <NotFound />);

export default Parts;
