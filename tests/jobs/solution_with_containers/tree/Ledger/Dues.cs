namespace Saltmarsh.Ledger {
  public static class Dues {
    public static int Of(int members) { return members * 12; }
  }
}
