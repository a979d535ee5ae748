# The commands of iron-lever-cli, asked of the program itself; behind one its options, else files.
_iron_lever_cli() {
  local word=${COMP_WORDS[COMP_CWORD]}
  if [ "$COMP_CWORD" -eq 1 ]; then
    mapfile -t COMPREPLY < <(compgen -W "$(iron-lever-cli --help 2>/dev/null | sed -n '/^Subcommands:/,$s/^  \([a-z-]*\) .*/\1/p')" -- "$word")
  elif [[ $word == -* ]]; then
    mapfile -t COMPREPLY < <(compgen -W "$(iron-lever-cli "${COMP_WORDS[1]}" --help 2>/dev/null | grep -oE -- '--[a-z-]+')" -- "$word")
  else
    mapfile -t COMPREPLY < <(compgen -f -- "$word")
  fi
}
complete -o filenames -F _iron_lever_cli iron-lever-cli
