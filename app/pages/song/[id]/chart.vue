<template><div>chart</div></template>
