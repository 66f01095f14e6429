# SPDX-License-Identifier: GPL-3.0-or-later
# bash completion for mellow-lantern-cli
_mellow_lantern_cli() {
  local word=${COMP_WORDS[COMP_CWORD]} commands="plan shoot inspect combine assemble finish run farm cameras visit log practice"
  COMPREPLY=()
  if [ "$COMP_CWORD" -eq 1 ]; then
    mapfile -t COMPREPLY < <(compgen -W "$commands --help --version" -- "$word")
    return
  fi
  case ${COMP_WORDS[1]} in
    farm) [ "$COMP_CWORD" -eq 2 ] && mapfile -t COMPREPLY < <(compgen -W "status resume" -- "$word") ;;
    log) [ "$COMP_CWORD" -eq 2 ] && mapfile -t COMPREPLY < <(compgen -W "list show stats export rebuild" -- "$word") ;;
    practice) [ "$COMP_CWORD" -eq 2 ] && mapfile -t COMPREPLY < <(compgen -W "list run" -- "$word") ;;
    visit) [ "$COMP_CWORD" -eq 2 ] && mapfile -t COMPREPLY < <(compgen -W "plan" -- "$word") ;;
  esac
  if [[ $word == -* ]]; then
    local options
    options=$("${COMP_WORDS[0]}" "${COMP_WORDS[1]}" --help 2>/dev/null | grep -oE -- '--[a-z-]+' | sort -u)
    mapfile -t COMPREPLY < <(compgen -W "$options" -- "$word")
  fi
  [ ${#COMPREPLY[@]} -eq 0 ] && mapfile -t COMPREPLY < <(compgen -f -- "$word")
}
complete -o filenames -F _mellow_lantern_cli mellow-lantern-cli
