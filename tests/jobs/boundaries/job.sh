# A folder gets an assembly of its own, with the references that it needs; its users get one to it.
builds
clean
does carve Assets/Core/Tides
builds "Tides by itself"
test -f Assets/Core/Tides/Tides.asmdef
has Assets/Core/Tides/Tides.asmdef '"Saltmarsh.Core"'
has Assets/Desk/Desk.asmdef '"Saltmarsh.Core.Tides"'
clean
does carve --fold Assets/Core/Tides
builds "folded back"
as_before

# A source goes from the default assembly to a named one.
does move Assets/Scenes/Pier.cs Assets/Desk/ --link-units
builds "a pier on the desk"
as_before

# A type leaves its users, who lack a reference then.
refuses move Assets/Core/Level.cs Assets/Levels/Level.cs
says "would be in no assembly that it can refer to"
refuses move Assets/Core/Level.cs Assets/Desk/Level.cs --link-units
says "a cycle"

# What would go round in a circle gets no assembly of its own.
cat >Assets/Core/Tides/Pole.cs <<'C'
namespace Saltmarsh.Core {
  public class Pole { public Tide At = new Tide(); }
}
C
sed -i 's/public const/public Pole Mark; public const/' Assets/Core/Level.cs
builds
refuses carve Assets/Core/Tides
says "Saltmarsh.Core"
