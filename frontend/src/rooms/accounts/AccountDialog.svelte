<script lang="ts">
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import Field from '../../parts/Field.svelte';
  import { saysWhy, session } from '../../parts/session.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
  let now = $state('');
  let next = $state('');
  let wrong = $state('');

  async function change(event: SubmitEvent) {
    event.preventDefault();
    wrong = '';
    try {
      await session.changePassword(now, next);
      now = next = '';
      open = false;
      notices.say('Your password is changed, and you are signed out in every other browser.');
    } catch (error) {
      wrong = saysWhy(error);
    }
  }

  async function signOut(everywhere: boolean) {
    try {
      await session.signOut(everywhere);
    } catch (error) {
      notices.refuse(error);
    }
  }
</script>

<Modal bind:open title="Your account" wide="34">
  {#snippet about()}Signed in as {session.name}, {session.role}.{/snippet}
  <form class="mt-3 flex flex-col gap-3" onsubmit={change}>
    <Field
      class="h-control-l"
      required
      label="Password now"
      type="password"
      autocomplete="current-password"
      maxlength={128}
      bind:value={now}
    />
    <Field
      class="h-control-l"
      required
      label="New password: at least 12 characters, such as a few words"
      type="password"
      autocomplete="new-password"
      minlength={12}
      maxlength={128}
      bind:value={next}
    />
    {#if wrong}<p role="alert" class="font-semibold">{wrong}</p>{/if}
    <button class="btn self-start">Change the password</button>
  </form>
  {#snippet actions()}
    <button class="btn btn-main" onclick={() => signOut(false)}>Sign out</button>
    <button class="btn" onclick={() => signOut(true)}>Sign out in every browser</button>
  {/snippet}
</Modal>
