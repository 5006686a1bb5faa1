package cli

import (
	"errors"
	"fmt"
	"strings"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"dicaxon/internal/names"
	"dicaxon/internal/safe"
)

// A callError is a mistake in the call.
type callError struct{ error }

func callf(format string, args ...any) error { return callError{fmt.Errorf(format, args...)} }

func asCall(err error) error {
	if err == nil {
		return nil
	}
	return callError{err}
}

func oneOf(flag, value string, known ...string) error {
	for _, k := range known {
		if value == k {
			return nil
		}
	}
	if meant := names.Closest(value, known); meant != "" {
		return callf("--%s %s: did you mean %s?", flag, value, meant)
	}
	return callf("--%s is %s, not %q", flag, strings.Join(known, " or "), value)
}

// noSuchCommand names the command that was likely meant.
func noSuchCommand(root *cobra.Command, args []string) error {
	if len(args) == 0 {
		return nil
	}
	var known []string
	for _, cmd := range root.Commands() {
		known = append(known, cmd.Name())
	}
	if meant := names.Closest(args[0], known); meant != "" {
		return callf("there is no command %s; did you mean %s?", args[0], meant)
	}
	return callf("there is no command %s; `dicaxon help` lists them", args[0])
}

// exclusive refuses a call with more than one of the options.
func exclusive(cmd *cobra.Command, flags ...string) {
	before := cmd.PreRunE
	cmd.PreRunE = func(cmd *cobra.Command, args []string) error {
		var given []string
		for _, name := range flags {
			if cmd.Flags().Changed(name) {
				given = append(given, "--"+name)
			}
		}
		if len(given) > 1 {
			return callf("%s do not go together; give one of them", strings.Join(given, " and "))
		}
		if before != nil {
			return before(cmd, args)
		}
		return nil
	}
}

// flagError says in plain words what is wrong with an option.
func flagError(cmd *cobra.Command, err error) error {
	var (
		unknown *pflag.NotExistError
		without *pflag.ValueRequiredError
		wrong   *pflag.InvalidValueError
		syntax  *pflag.InvalidSyntaxError
	)
	switch {
	case errors.As(err, &unknown):
		name := unknown.GetSpecifiedName()
		if unknown.GetSpecifiedShortnames() != "" {
			return callf("there is no option -%s; `%s --help` lists them", name, cmd.CommandPath())
		}
		var known []string
		cmd.Flags().VisitAll(func(f *pflag.Flag) { known = append(known, f.Name) })
		if meant := names.Closest(name, known); meant != "" {
			return callf("there is no option --%s; did you mean --%s?", name, meant)
		}
		return callf("there is no option --%s; `%s --help` lists them", name, cmd.CommandPath())
	case errors.As(err, &without):
		return callf("--%s needs a value: %s", without.GetFlag().Name, without.GetFlag().Usage)
	case errors.As(err, &wrong):
		f := wrong.GetFlag()
		form := map[string]string{"int": "it is a whole number", "bool": "it is true or false", "duration": "it is a time, such as 90s or 10m"}[f.Value.Type()]
		if form == "" {
			form = f.Usage
		}
		return callf("--%s %s: %s", f.Name, wrong.GetValue(), form)
	case errors.As(err, &syntax):
		return callf("%s is no option; `%s --help` lists them", syntax.GetSpecifiedFlag(), cmd.CommandPath())
	}
	return asCall(err)
}

// sensible refuses options that say nothing, such as a variable that is not set gives, and
// numbers below zero.
func sensible(cmd *cobra.Command) (err error) {
	cmd.Flags().Visit(func(f *pflag.Flag) {
		switch value := f.Value.String(); {
		case value == "" || value == "[]":
			err = callf("--%s is empty; leave it out, or say which", f.Name)
		case f.Value.Type() == "int" && strings.HasPrefix(value, "-"):
			err = callf("--%s %s: it is a whole number from 0", f.Name, value)
		}
	})
	return err
}

// plainArguments refuses arguments that are no paths, before others look at them.
func plainArguments(then cobra.PositionalArgs) cobra.PositionalArgs {
	return func(cmd *cobra.Command, given []string) error {
		for _, one := range given {
			switch {
			case one == "":
				return callf("one of the arguments is empty; leave it out, or say which")
			case safe.IsAddress(one):
				return callf("%s is an address; name a folder or a file", one)
			}
		}
		return asCall(then(cmd, given))
	}
}

// helpCommand shows the help of a command; one that is not there is a wrong call.
func helpCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "help [COMMAND]",
		Short: "Show how a command is called",
		RunE: func(cmd *cobra.Command, args []string) error {
			found, rest, err := cmd.Root().Find(args)
			if err != nil || len(rest) > 0 {
				return noSuchCommand(cmd.Root(), args)
			}
			return found.Help()
		},
	}
}

// noSuchShell says for which shells there is a completion.
func noSuchShell(cmd *cobra.Command, args []string) error {
	if len(args) == 0 {
		return cmd.Help()
	}
	var known []string
	for _, shell := range cmd.Commands() {
		known = append(known, shell.Name())
	}
	return callf("there is no completion for %s; there is one for %s", args[0], strings.Join(known, ", "))
}
