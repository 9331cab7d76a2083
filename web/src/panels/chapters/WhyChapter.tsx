import type { NodeAnswer } from '../../core/answers';
import { OwnInShot } from '../shotCards/ShotPanel';
import { SeenIn } from '../why/SeenIn';
import { SeenPanel } from '../why/SeenPanel';
import { WhyPanel } from '../why/WhyPanel';

/** Why the picked object is where it is, and why it is seen or not. */
export function WhyChapter({ lead }: { lead: NodeAnswer }) {
  return (
    <>
      <WhyPanel lead={lead} />
      <SeenPanel lead={lead} />
      <SeenIn />
      <OwnInShot />
    </>
  );
}
