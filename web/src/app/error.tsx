'use client';
import { Button } from '@/ui/controls/Button';
import { Message } from '@/ui/Message';

export default function ErrorPage({ reset }: { reset: () => void }) {
  return (
    <Message title="This page could not be shown">
      <p>The server or its database may be away for a moment. Your photographs and edits are kept.</p>
      <Button $primary onPress={reset}>
        Try again
      </Button>
    </Message>
  );
}
