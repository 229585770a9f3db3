# The project went by hand: the solution, the container and the composition still name it.
mkdir src
mv Ledger src/
breaks
finds dangling Saltmarsh.sln
finds dangling Office/Office.csproj
finds dangling Office/Dockerfile
does catch-up
builds
clean

# The container's context has no such folder.
as_before
sed -i 's|COPY gauged/ gauged/|COPY gauge/ gauged/|' gauged/Dockerfile
breaks
finds dangling gauged/Dockerfile

# The import of the shared sources was forgotten in a project that uses them.
as_before
sed -i '/Protocol.projitems/d' Office/Office.csproj
breaks
finds missing-shared-import Office/Program.cs

# A shared source bears a name that the project has too.
as_before
mkdir Office/Desk
cp protocol/Packet.cs Office/Desk/Packet.cs
sed -i 's|<Compile Include="Program.cs" />|&<Compile Include="Desk\\Packet.cs" />|' Office/Office.csproj
breaks
finds declared-twice Office/Office.csproj
