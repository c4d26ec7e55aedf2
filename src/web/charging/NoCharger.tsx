import { ButtonLink } from '../kit/Button';
import { Empty } from '../kit/Message';

/** A bench without a charger has no plan and nothing that runs: how to begin. */
export function NoCharger() {
  return (
    <Empty title="No charger is out of the cupboard.">
      <ButtonLink to="/settings/equipment/new" weight="main">
        Add a charger
      </ButtonLink>
    </Empty>
  );
}
