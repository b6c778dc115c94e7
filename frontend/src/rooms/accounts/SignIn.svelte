<script lang="ts">
  import { Dialog } from 'bits-ui';
  import Field from '../../parts/Field.svelte';
  import { saysWhy, session } from '../../parts/session.svelte';

  let name = $state('');
  let password = $state('');
  let shown = $state(false);
  let wrong = $state('');
  let busy = $state(false);

  async function signIn(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    wrong = '';
    try {
      await session.signIn(name, password);
    } catch (error) {
      wrong = saysWhy(error);
    } finally {
      password = '';
      busy = false;
    }
  }
</script>

<svelte:head><title>Sign in – Nabrel</title></svelte:head>
<!-- A dialog of its own, above whatever is open: it takes the focus, and only signing in closes it. -->
<Dialog.Root open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-50 {session.entered ? 'bg-black/50' : 'bg-room'}" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-96 max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-6 shadow-raised"
      escapeKeydownBehavior="ignore"
      interactOutsideBehavior="ignore"
    >
      <form class="flex flex-col gap-3" onsubmit={signIn}>
        <Dialog.Title class="text-lg font-semibold">Sign in to Nabrel</Dialog.Title>
        {#if session.entered}
          <Dialog.Description>
            You are signed out. Sign in again and go on: nothing you typed is lost.
          </Dialog.Description>
        {/if}
        <Field
          class="h-control-l"
          required
          label="Name"
          autocomplete="username"
          maxlength={60}
          bind:value={name}
        />
        <Field
          class="h-control-l"
          required
          label="Password"
          type={shown ? 'text' : 'password'}
          autocomplete="current-password"
          maxlength={128}
          bind:value={password}
        />
        <label class="flex items-center gap-2"
          ><input type="checkbox" bind:checked={shown} />Show the password</label
        >
        {#if wrong}<p role="alert" class="font-semibold">{wrong}</p>{/if}
        <button class="btn btn-main h-control-xl justify-center" disabled={busy}>Sign in</button>
        <p class="text-sm text-quiet">
          No account, or a password forgotten? Whoever runs this server makes accounts on its command line.
        </p>
      </form>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
