// A device that scanned a code has asked already.
document.querySelector("form[data-at-once]")?.submit();
