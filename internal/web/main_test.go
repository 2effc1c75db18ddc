package web_test

import (
	"testing"

	"chromaqua/internal/web/webtest"
)

func TestMain(m *testing.M) { webtest.Main(m) }
