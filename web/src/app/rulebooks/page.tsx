import { Library } from '../../rulebook-pages/Library';

export default function Page() {
  return <Library />;
}
