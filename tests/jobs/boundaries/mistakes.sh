# A reference was forgotten.
sed -i 's/"Saltmarsh.Core"//' Assets/Desk/Desk.asmdef
breaks
finds missing-unit-reference Assets/Desk/Members.cs
does check --mend missing-unit-reference
builds
clean

# A name that no assembly has.
as_before
sed -i 's/"Saltmarsh.Core"/"Saltmarsh.Core", "Saltmarsh.Kernel"/' Assets/Desk/Desk.asmdef
breaks
finds unknown-unit Assets/Desk/Desk.asmdef

# A reference that nothing needs any more is worth a note.
as_before
sed -i 's/Saltmarsh.Core/Saltmarsh.Scenes/; s/public Tide.*/}/; s/} }/}/' Assets/Desk/Members.cs
sed -i 's/using Saltmarsh.Scenes;//' Assets/Desk/Members.cs
finds unused-unit-reference Assets/Desk/Desk.asmdef
