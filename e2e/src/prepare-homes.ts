import { prepareHomes } from './prepared-homes';

await prepareHomes();
