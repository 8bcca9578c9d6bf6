<template><div>handout</div></template>
