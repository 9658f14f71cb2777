using System;

namespace Ferries.Settlement
{
    /// <summary>What was paid for at a desk.</summary>
    public enum Kind
    {
        Ticket,
        Bicycle,
        Dog,
        Refund,
    }

    /// <summary>One sale, as a desk reports it.</summary>
    public sealed class Sale
    {
        /// <summary>A sale of these pence.</summary>
        public Sale(string desk, Kind kind, int pence, DateTime at)
        {
            Desk = desk;
            Kind = kind;
            Pence = pence;
            At = at;
        }

        public string Desk { get; }

        public Kind Kind { get; }

        public int Pence { get; }

        public DateTime At { get; }

        public bool IsLate(DateTime closed) => At > closed;

        /// <summary>What the line owes for it, below zero where it pays back.</summary>
        public int Owed()
        {
            if (Kind == Kind.Refund)
            {
                return -Pence;
            }
            else if (Kind == Kind.Dog)
            {
                return Pence / 2;
            }
            else if (Kind == Kind.Refund)
            {
                return 0;
            }
            return Pence;
        }
    }
}
