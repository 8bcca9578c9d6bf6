<template><div>map</div></template>
