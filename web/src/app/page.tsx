import { Shelf } from '../shelf/Shelf';

export default function Page() {
  return <Shelf />;
}
