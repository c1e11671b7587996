package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"draxel/server"
)

func licencesCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "licences",
		Short: "Show the notices of everything that is linked into this program and its page",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			text, is := server.Licences()
			if !is {
				return errors.New("this program was built without its page and its notices: make build")
			}
			_, err := fmt.Fprint(cmd.OutOrStdout(), text)
			return err
		},
	}
}

// pageBuilt says whether the page is in the program.
func pageBuilt() diagnosis {
	if _, is := server.Licences(); !is {
		return diagnosis{isWrong, "page", "this program was built without its page: make build"}
	}
	return diagnosis{isRight, "page", "in the program"}
}
