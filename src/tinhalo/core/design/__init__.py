"""The design document as a whole: layers, sheet, how it leaves; reading it, and what is wrong with one."""
