// Command draxel serves the workshop's crosswalks and re-pin sheets, and computes them from the shell.
package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

// version is set when a release is made.
var version = "not released"

func main() {
	root := &cobra.Command{
		Use:           "draxel",
		Short:         "Crosswalk two pinouts, decide, and hand out a proven re-pin sheet",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.Version = version
	root.AddCommand(serveCommand(), matchCommand(), backupCommand(), pruneCommand(), standinCommand(), doctorCommand(),
		licencesCommand())
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, "draxel:", err)
		os.Exit(2)
	}
}
