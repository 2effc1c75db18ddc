package main

import (
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"chromaqua"
	"chromaqua/core/wording"
	"chromaqua/internal/doctor"
	"chromaqua/internal/sheet"
)

func doctorCommand() *cobra.Command {
	var data string
	c := &cobra.Command{
		Use:   "doctor",
		Short: "Look whether all is well: file, disk, copies, fonts, browser, clock",
		Args:  calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			ill := 0
			for _, f := range doctor.Examine(c.Context(), doctor.Patient{Data: data, Fonts: sheet.Fonts(), Now: time.Now()}) {
				fmt.Fprintf(c.OutOrStdout(), "%-18s %s", f.Of, wording.Sentence(f.Says))
				if f.State != doctor.Well {
					fmt.Fprintf(c.OutOrStdout(), " [%s]", f.State)
				}
				fmt.Fprintln(c.OutOrStdout())
				if f.Do != "" {
					fmt.Fprintf(c.OutOrStdout(), "%-18s → %s\n", "", wording.Sentence(f.Do))
				}
				if f.State == doctor.Ill {
					ill++
				}
			}
			if ill > 0 {
				return errors.New("not all is well; what to do stands above")
			}
			return nil
		},
	}
	c.Flags().StringVar(&data, "data", dataFile(ownStudio), "the studio file")
	return c
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Say which version this is",
		Args:  calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			_, err := fmt.Fprintln(c.OutOrStdout(), "Chromaqua,", chromaqua.Named())
			return err
		},
	}
}
