package main

import "context"

func folder(context.Context, *report) error { return nil }
