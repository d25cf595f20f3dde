import Link from 'next/link';
import { Message } from '@/ui/Message';

export default function NotFound() {
  return (
    <Message title="There is nothing here">
      <p>
        The photograph or shoot does not exist, or was removed. <Link href="/">All shoots</Link>
      </p>
    </Message>
  );
}
