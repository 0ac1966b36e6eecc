# For scripts that fetch published sources and their packages: a set-up of apt in DIR/.apt like the machine's own, with
# sources added, of which the machine's own sees nothing. Needs `dir`; leaves `apt` and `opts`.
apt=$dir/.apt; mkdir -p "$apt/parts" "$apt/lists/partial"
for f in /etc/apt/sources.list /etc/apt/sources.list.d/*.list; do
  [ -f "$f" ] && sed -n 'p;s/^deb /deb-src /p' "$f" > "$apt/parts/src-$(basename "$f" .list).list"
done
for f in /etc/apt/sources.list.d/debian*.sources; do
  [ -f "$f" ] && sed 's/^Types:.*/Types: deb deb-src/' "$f" > "$apt/parts/$(basename "$f")"
done
opts=(-q -o Dir::Etc::SourceList=/dev/null -o Dir::Etc::SourceParts="$apt/parts" -o Dir::State::Lists="$apt/lists" -o APT::Sandbox::User=root)
apt-get "${opts[@]}" update > "$apt/log" 2>&1
