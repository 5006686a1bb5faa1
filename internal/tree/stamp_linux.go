package tree

import "syscall"

func alteredAt(s *syscall.Stat_t) int64 { return s.Ctim.Nano() }
