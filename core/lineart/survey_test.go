package lineart_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
)

func TestSurvey(t *testing.T) {
	s, err := lineart.NewSurvey(context.Background(), twoRooms(0.9), dpi)
	require.NoError(t, err)
	at := func(x, y float64) int { return s.Basin(int(x/25.4*dpi), int(y/25.4*dpi)) }
	left, right := at(10, 15), at(30, 15)
	require.NotEqual(t, left, right)
	assert.Zero(t, at(20, 8), "the wall")

	all := s.Passages()
	require.Len(t, all, 1)
	assert.ElementsMatch(t, []int{left, right}, []int{all[0].A, all[0].B})
	require.Len(t, all[0].Evidence, len(lineart.EvidenceNames()))
	assert.InDelta(t, 0.9, all[0].Evidence[0], 0.25, lineart.EvidenceNames()[0])

	s.Join(left, right)
	s.Join(left, right)
	assert.Equal(t, at(10, 15), at(30, 15))
	assert.Empty(t, s.Passages())
}

func TestSurveyRefuses(t *testing.T) {
	_, err := lineart.NewSurvey(context.Background(), sheet(40, 30), dpi)
	assert.ErrorIs(t, err, lineart.ErrBlank)
	_, err = lineart.NewSurvey(context.Background(), twoRooms(0), 150)
	assert.ErrorContains(t, err, "too few")
	_, err = lineart.NewSurvey(context.Background(), twoRooms(0), 5)
	assert.Error(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = lineart.NewSurvey(ctx, twoRooms(0), dpi)
	assert.ErrorIs(t, err, context.Canceled)
}
