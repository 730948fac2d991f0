import { HowItWorks } from '../../frame/how/HowItWorks.tsx';
import { stages } from '../list.ts';

/** How the product works, with the stages there are. */
export const HowPage = () => <HowItWorks stages={stages} />;
