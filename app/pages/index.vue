<template><div>Synchorda</div></template>
