# Completion of rubble-cli for bash.
_rubble_cli() {
    local word=${COMP_WORDS[COMP_CWORD]} command=${COMP_WORDS[1]}
    local commands="check players gather whatif sides limits replay solve export parcel merge import-sheet import-csv import-model cast info"
    if [ "$COMP_CWORD" -eq 1 ]; then
        mapfile -t COMPREPLY < <(compgen -W "$commands --help --version" -- "$word")
        return
    fi
    if [[ $word == -* ]]; then
        local options
        options=$(rubble-cli "$command" --help 2>/dev/null | grep -oE -- '--[a-z-]+' | sort -u)
        mapfile -t COMPREPLY < <(compgen -W "$options" -- "$word")
        return
    fi
    mapfile -t COMPREPLY < <(compgen -f -- "$word")
}
complete -o filenames -F _rubble_cli rubble-cli
