<template>
  <div class="page">
    <h1 class="head">There is no such page</h1>
    <p>
      The address may be old or mistyped.
      <router-link to="/studies">Go to the studies</router-link>.
    </p>
  </div>
</template>

<style scoped>
.head {
  margin: 40px 0 10px;
}
</style>
