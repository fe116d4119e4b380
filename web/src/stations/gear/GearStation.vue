<template><p>x</p></template>
