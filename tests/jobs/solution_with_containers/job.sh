# Projects below src/, which the solution mirrors; the shared sources beside them; containers follow.
builds
clean
does move Office Ledger src/
builds "projects below src/"
has Saltmarsh.sln 'src\Office\Office.csproj'
has docker-compose.yml "dockerfile: src/Office/Dockerfile"
has docker-compose.yml "./src/Office/letters:/office/letters:ro"
does move protocol shared/protocol
builds "shared sources"
has src/Office/Office.csproj '..\..\shared\protocol\Protocol.projitems'
does move gauged src/gauged
builds "a container's own folder"
does move src/Office/Members.cs src/Office/Desk/Members.cs
builds "a source in a folder"
has src/Office/Office.csproj 'Desk\Members.cs'
clean

# The folder gets a project of its own, which the solution lists, and is taken back.
does carve src/Office/Desk
builds "a project for the desk"
has Saltmarsh.sln 'src\Office\Desk\Office.Desk.csproj'
has src/Office/Office.csproj 'Desk\Office.Desk.csproj'
clean
does carve --fold src/Office/Desk
builds "folded back"
clean
does undo
does undo
does undo
does undo
does undo
taken_back
